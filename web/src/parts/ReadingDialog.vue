<script setup lang="ts">
// What, where, how and which version: all that stands behind one number.
import { useQuery } from "@tanstack/vue-query";
import { computed } from "vue";

import { api, ask } from "../api/client";
import type { Measure, Reading } from "../api/queries";
import { useStudyContext } from "../composables/useStudyContext";
import { fixed, named } from "../look/words";

const props = defineProps<{ reading: Reading; measures: readonly Measure[] }>();
const emit = defineEmits<{ close: [] }>();
const { study } = useStudyContext();
const { data, error } = useQuery({
  queryKey: ["reading", props.reading.id],
  queryFn: () =>
    ask(api.GET("/api/readings/{reading_id}", { params: { path: { reading_id: props.reading.id } } })),
});
const measure = computed(() => props.measures.find((m) => m.id === props.reading.measure));
const digits = computed(() => (measure.value?.digits ?? 2) + 1);
const contender = computed(() => study.value.contenders.find((c) => c.id === props.reading.contender));
const patch = computed(() => study.value.patches.find((p) => p.id === props.reading.patch));
const frame = computed(() => study.value.frames.find((f) => f.id === props.reading.frame));
const where = computed(() => {
  const p = patch.value;
  if (!p) return `${frame.value?.name}, whole frame`;
  return `${frame.value?.name}, ${p.name}: ${p.w} x ${p.h} px at ${p.x}, ${p.y}`;
});
const numbers = computed(() =>
  Object.entries((data.value?.details ?? {}) as Record<string, unknown>).filter(
    (entry): entry is [string, number] => typeof entry[1] === "number",
  ),
);
const curve = computed(() => {
  const mtf = (data.value?.details as { mtf?: { cycles_per_frame_px: number[]; transfer: number[] } })?.mtf;
  if (!mtf) return null;
  const most = Math.max(...mtf.cycles_per_frame_px, 0.5);
  const points = mtf.cycles_per_frame_px.map(
    (f, i) =>
      `${(40 + (400 * f) / most).toFixed(1)},${(150 - 120 * Math.min(1.2, mtf.transfer[i] ?? 0)).toFixed(1)}`,
  );
  return { points: points.join(" "), most, at: 40 + (400 * (props.reading.value ?? 0)) / most };
});
</script>

<template>
  <v-dialog :model-value="true" max-width="560" @update:model-value="emit('close')">
    <v-card>
      <h2>{{ measure?.name }}</h2>
      <p v-if="error" class="rowan">{{ error.message }}</p>
      <dl>
        <dt>Value</dt>
        <dd class="mono">
          {{ fixed(reading.value ?? 0, digits) }} {{ reading.unit }}, 95 % interval
          {{ fixed(reading.low ?? 0, digits) }} to
          {{ fixed(reading.high ?? 0, digits) }}
        </dd>
        <dt>Of</dt>
        <dd>{{ contender ? `${contender.letter}, ${named(contender)}` : "" }}</dd>
        <dt>Where</dt>
        <dd>{{ where }}</dd>
        <dt>On</dt>
        <dd>{{ reading.grid }}</dd>
        <dt>How</dt>
        <dd>{{ measure?.defined_by }}, version {{ reading.version }}</dd>
        <template v-for="[name, value] in numbers" :key="name">
          <dt>{{ name.replaceAll("_", " ") }}</dt>
          <dd class="mono">{{ Number(value.toPrecision(5)) }}</dd>
        </template>
      </dl>
      <svg
        v-if="curve"
        viewBox="0 0 460 180"
        role="img"
        aria-label="Modulation transfer over spatial frequency"
      >
        <g class="axes">
          <path d="M40 30V150H440" />
          <path d="M40 90H440" class="faint" />
          <path :d="`M${curve.at} 90V150`" class="faint" />
          <text x="34" y="34" text-anchor="end">1</text>
          <text x="34" y="94" text-anchor="end">0.5</text>
          <text x="34" y="154" text-anchor="end">0</text>
          <text x="440" y="170" text-anchor="end">{{ curve.most.toFixed(2) }} cycles per frame px</text>
          <text :x="curve.at" y="170" text-anchor="middle">{{ fixed(reading.value ?? 0, 3) }}</text>
        </g>
        <polyline :points="curve.points" class="curve" />
      </svg>
      <v-btn variant="text" autofocus @click="emit('close')">Close</v-btn>
    </v-card>
  </v-dialog>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 6px 18px;
  margin: 14px 0;
}
dt {
  color: var(--soft);
}
svg {
  width: 100%;
}
.axes path {
  fill: none;
  stroke: var(--ink);
}
.axes .faint {
  stroke: var(--rule);
}
text {
  font: 11.5px var(--mono);
  fill: var(--soft);
}
.curve {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.8;
}
</style>
