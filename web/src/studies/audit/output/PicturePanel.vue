<script setup lang="ts">
// What was done to the picture besides its tone: edges, noise by octave, and the numbers that rules
// ask for.
import { computed } from "vue";

import type { Examination } from "@/api/types";
import CurveChart from "@/charts/CurveChart.vue";
import { columnsOf, pictureValues } from "./examined";
import ValueList from "./ValueList.vue";

const props = defineProps<{ found: Examination }>();
const edge = computed(() => columnsOf(props.found, "edge"));
const noise = computed(() => columnsOf(props.found, "noise"));
const values = computed(() => pictureValues(props.found));
</script>

<template>
  <section
    style="--columns: minmax(0, 1fr) 440px"
    class="sides in-grid py-4 align-start columns"
    aria-label="What was done to the picture"
  >
    <div class="charts in-grid ga-5">
      <CurveChart
        v-if="edge?.distance && edge.output && edge.frame"
        title="Across strong lone edges"
        x-unit="frame px from the edge"
        y-unit="share of the step"
        :curves="[
          { name: 'output', x: edge.distance, y: edge.output },
          { name: 'frame', x: edge.distance, y: edge.frame },
        ]"
      />
      <p v-else class="soft">No edge profile: {{ found.reasons.edges ?? "none was taken" }}.</p>
      <CurveChart
        v-if="noise?.frequency && noise.left"
        title="Noise left in plain parts"
        x-unit="cycles per frame px"
        y-unit="energy, output over frame"
        :curves="[{ name: 'left', x: noise.frequency, y: noise.left }]"
      />
      <p v-else class="soft">
        No noise to tell: {{ found.reasons.character ?? "no part is plain enough" }}.
      </p>
    </div>
    <ValueList :rows="values" label="What was done to the picture, in numbers" />
  </section>
</template>

<style scoped>
.sides {
  gap: 30px;
}
</style>
