<script setup lang="ts">
// One chart of what every pane shows along the line.
import { computed } from "vue";

import CurveChart from "@/charts/CurveChart.vue";
import { lengthOf, type Line } from "@/viewer/profile";

import { BRIGHTNESS } from "./readout";
import type { Look } from "./useLook";
import { useProfiles } from "./useProfiles";
import type { Readout } from "./useReadout";

const props = defineProps<{ look: Look; readout: Readout; line: Line }>();
const { curves, waiting } = useProfiles(
  () => props.look.panes.value,
  () => props.line,
  () => props.readout.asked.unit,
);
const title = computed(() => `Along the line, ${lengthOf(props.line).toFixed(0)} px of the frame`);
</script>

<template>
  <section class="profile px-4 pt-2" aria-label="Values along the line">
    <CurveChart
      v-if="curves.length"
      :curves="curves"
      :title="title"
      x-unit="px of the frame"
      :y-unit="BRIGHTNESS[readout.asked.unit]"
      :height="150"
      :x-range="[0, lengthOf(line)]"
    />
    <p v-if="waiting" class="soft small">Full-depth values are being read.</p>
  </section>
</template>

<style scoped>
.profile {
  border-top: 1px solid var(--ink);
  background: var(--paper);
}
</style>
