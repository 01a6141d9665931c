<script setup lang="ts">
// Measured bodies side by side: read noise and range over ISO.
import { useQueries } from "@tanstack/vue-query";
import { computed } from "vue";

import type { Body } from "@/api/types";
import CurveChart from "@/charts/CurveChart.vue";

import { measuredQuery } from "./queries";
import { besides } from "./sensor";

const props = defineProps<{ bodies: readonly Body[] }>();
const found = useQueries({ queries: computed(() => props.bodies.map((b) => measuredQuery(b.id))) });
const measured = computed(() =>
  props.bodies.flatMap((body, i) => {
    const facts = found.value[i]?.data?.found;
    return facts ? [{ name: body.name, facts }] : [];
  }),
);
const charts = computed(() => besides(measured.value));
</script>

<template>
  <section v-if="measured.length > 1" class="block" aria-label="Measured bodies side by side">
    <div class="block-head">
      <h2>Measured bodies side by side</h2>
      <span class="soft">of one pixel; a print’s range is in a study of bodies</span>
    </div>
    <div style="--at-least: 460px" class="in-grid tiles ga-8">
      <CurveChart
        v-for="chart in charts"
        :key="chart.title"
        :title="chart.title"
        :curves="chart.curves"
        x-unit="ISO"
        :y-unit="chart.unit"
        iso
      />
    </div>
  </section>
</template>
