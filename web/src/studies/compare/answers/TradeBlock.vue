<script setup lang="ts">
// What is traded for what: two measures, both to be chosen.
import { computed } from "vue";

import type { Measure } from "@/api/types";
import { useTrade } from "@/studies/compare/queries";
import TradeChart from "@/charts/TradeChart.vue";
import { useAddress } from "@/shared/lib/useAddress";
import MeasureSelect from "@/studies/compare/MeasureSelect.vue";
import { useStudyContext } from "@/studies/shared/useStudyContext";

const props = defineProps<{ measures: readonly Measure[]; basis: string }>();
const { study } = useStudyContext();
const { inAddress } = useAddress();
const rated = computed(() => props.measures.filter((m) => m.best));
const first = (...ids: string[]) =>
  ids.find((id) => rated.value.some((m) => m.id === id)) ?? rated.value[0]?.id ?? "";
const x = inAddress("x", () => first("noise_luma", "noise_chroma", "rmse"));
const y = inAddress("y", () => first("detail_kept", "detail_frame", "mtf50", "ssim"));
const { data, error } = useTrade(
  () => study.value.id,
  x,
  y,
  () => props.basis,
);
const named = (id: string) => {
  const m = props.measures.find((one) => one.id === id);
  return m ? [m.name, m.unit].filter(Boolean).join(", ") : id;
};
const way = (id: string) => {
  const best = props.measures.find((m) => m.id === id)?.best ?? "";
  return best === "highest" ? "more" : best === "lowest" ? "less" : best;
};
const title = computed(() =>
  [x.value, y.value].map((id) => named(id).split(",")[0]).join(" against "),
);
</script>

<template>
  <section class="block" aria-label="Trade-off">
    <div class="block-head">
      <h2>Trade-off</h2>
      <span class="end row middle">
        <MeasureSelect v-model="x" label="Across" :measures="rated" />
        <MeasureSelect v-model="y" label="Up" :measures="rated" />
      </span>
    </div>
    <p v-if="error" class="rowan">{{ error.message }}</p>
    <template v-if="data">
      <p v-if="!data.points.length" class="soft">No contender has readings of both.</p>
      <template v-else>
        <p class="soft">
          Medians over all patches with their intervals; across {{ way(x) }} is best, up
          {{ way(y) }} is best.
          <strong>{{ data.front.join(", ") }}</strong>
          {{ data.front.length === 1 ? "is" : "are" }} beaten by no other at both (the line).
          <template v-if="data.blends.length">
            Dotted: the even blend of the frame with each output, which a strength control should
            follow.
          </template>
        </p>
        <TradeChart :trade="data" :title="title" :x-name="named(x)" :y-name="named(y)" />
      </template>
    </template>
  </section>
</template>
