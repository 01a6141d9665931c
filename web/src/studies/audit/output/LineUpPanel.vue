<script setup lang="ts">
// How one output lies on its frame: numbers, arrows, border, and frame and output shown in turn at
// one spot.
import { computed, onBeforeUnmount, ref, watch } from "vue";

import type { Examination, Frame, Output } from "@/api/types";
import { lineupWords } from "@/shared/lib/words";
import ChoiceBar from "@/shared/ui/ChoiceBar.vue";
import ArrowField from "./ArrowField.vue";
import PointsPanel from "./PointsPanel.vue";

const props = defineProps<{
  frame: Frame;
  output: Output;
  found: Examination | undefined;
  canEdit: boolean;
  placing: boolean;
}>();
const emit = defineEmits<{ placing: [on: boolean] }>();
const TIMES = [10, 50, 200].map((value) => ({ value, title: `${value}×` }));
const PICTURES = [
  { value: "frame" as const, title: "Frame" },
  { value: "output" as const, title: "Output" },
];
const magnified = ref<number>(50);
const shown = ref<"frame" | "output">("frame");
const blinking = ref(false);
const still = window.matchMedia("(prefers-reduced-motion: reduce)").matches;
let timer = 0;
watch(blinking, (on) => {
  window.clearInterval(timer);
  if (on) timer = window.setInterval(turn, 600);
});
onBeforeUnmount(() => window.clearInterval(timer));
const turn = () => (shown.value = shown.value === "frame" ? "output" : "frame");
const words = computed(() => {
  const more =
    props.found && Math.abs(props.found.turn) >= 0.005
      ? [`turned ${props.found.turn.toFixed(2)}°`]
      : [];
  const bent = props.output.lineup?.bend ? ["straightened before areas are compared"] : [];
  return [...lineupWords(props.output), ...more, ...bent];
});
const lined = computed(() => props.output.state === "ready" && !!props.output.lineup);
</script>

<template>
  <section aria-label="Line-up">
    <p v-if="output.state === 'refused'" class="rowan" role="alert">{{ output.problem }}</p>
    <p v-for="doubt in found?.doubts ?? []" :key="doubt" class="rowan">In doubt: {{ doubt }}.</p>
    <PointsPanel
      v-if="placing && output.picture"
      :frame="frame"
      :output="output"
      :placed="found?.points ?? []"
      @done="emit('placing', false)"
    />
    <div v-else style="--columns: minmax(0, 1fr) 260px" class="sides in-grid columns folds">
      <div v-if="lined">
        <div class="toolbar">
          <ChoiceBar v-model="magnified" label="Arrows" :items="TIMES" />
          <ChoiceBar v-model="shown" label="Picture" :items="PICTURES" />
          <TextAction v-if="still" @click="turn">Switch</TextAction>
          <TextAction v-else :aria-pressed="blinking" @click="blinking = !blinking">
            {{ blinking ? "Stop" : "Alternate" }}
          </TextAction>
        </div>
        <ArrowField
          :frame="frame.picture"
          :output="output"
          :cells="found?.cells ?? []"
          :magnified="magnified"
          :shown="shown"
        />
      </div>
      <aside class="in-grid ga-3 align-content-start justify-items-start pt-3">
        <ul class="bare mono">
          <li v-for="w in words" :key="w">{{ w }}</li>
        </ul>
        <p class="soft">
          Each arrow is what scale, shift and straightening leave over in one place, in frame
          pixels. Where the two pictures look little alike, arrows are faint.
        </p>
        <p v-if="found && !found.cells.length && lined" class="soft">
          The pixels are the frame’s own; there is nothing to measure.
        </p>
        <p v-if="found?.points.length" class="soft">
          Started from {{ found.points.length }} points placed by hand.
        </p>
        <v-btn v-if="canEdit && output.picture" size="small" @click="emit('placing', true)"
          >Place points by hand</v-btn
        >
      </aside>
    </div>
  </section>
</template>

<style scoped>
.sides {
  gap: 26px;
}
</style>
