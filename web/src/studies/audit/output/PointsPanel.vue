<script setup lang="ts">
// Two or three pairs of points: the same thing marked in the frame and in the output.
import { computed, ref } from "vue";

import type { Frame, Output, PointPair } from "@/api/types";
import { usePoints } from "@/studies/audit/mutations";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import PointPicker from "./PointPicker.vue";

const props = defineProps<{ frame: Frame; output: Output; placed: readonly PointPair[] }>();
const emit = defineEmits<{ done: [] }>();
const { study } = useStudyContext();
const { busy, place } = usePoints(() => study.value.id);
type Point = { x: number; y: number };
const MOST = 3;
const inFrame = ref<Point[]>(props.placed.map((p) => ({ x: p.x, y: p.y })));
const inOutput = ref<Point[]>(props.placed.map((p) => ({ x: p.u, y: p.v })));
const pairs = computed(() =>
  inFrame.value.slice(0, inOutput.value.length).flatMap((f, i) => {
    const o = inOutput.value[i];
    return o ? [{ x: f.x, y: f.y, u: o.x, v: o.y }] : [];
  }),
);
const next = computed(() => {
  if (inFrame.value.length > inOutput.value.length) return "Now mark the same thing in the output.";
  if (pairs.value.length >= MOST) return "Three pairs placed.";
  if (pairs.value.length >= 2) return "Two pairs are enough; a third makes the line-up surer.";
  return "Mark something sharp near one corner of the frame, then the same thing in the output.";
});

function add(points: Point[], point: Point): void {
  if (points.length < MOST) points.push(point);
}

async function send(wanted: PointPair[]): Promise<void> {
  if (await place(props.output.id, wanted)) emit("done");
}
</script>

<template>
  <div class="points">
    <div class="toolbar">
      <span>{{ next }}</span>
      <TextAction
        :disabled="!inFrame.length"
        @click="
          inFrame = [];
          inOutput = [];
        "
      >
        Start over
      </TextAction>
      <span class="end row">
        <v-btn
          size="small"
          :loading="busy"
          :disabled="pairs.length < 2 || inFrame.length !== inOutput.length"
          @click="send(pairs)"
          >Line up from these points</v-btn
        >
        <TextAction v-if="placed.length" @click="send([])"> Remove points </TextAction>
        <TextAction @click="emit('done')">Cancel</TextAction>
      </span>
    </div>
    <div style="--at-least: 340px" class="in-grid ga-4 tiles">
      <PointPicker
        :picture="frame.picture"
        title="Frame"
        :points="inFrame"
        :open="inFrame.length === inOutput.length && inFrame.length < MOST"
        @pick="(p) => add(inFrame, p)"
        @move="(i, p) => (inFrame[i] = p)"
      />
      <PointPicker
        v-if="output.picture"
        :picture="output.picture"
        title="Output"
        :points="inOutput"
        :open="inOutput.length < inFrame.length"
        @pick="(p) => add(inOutput, p)"
        @move="(i, p) => (inOutput[i] = p)"
      />
    </div>
  </div>
</template>
