<script setup lang="ts">
// Two or three pairs of points: the same thing marked in the frame and in the output.
import { computed, ref } from "vue";

import { api, ask } from "@/api/client";
import type { Frame, Output, PointPair } from "@/api/queries";
import { useAct } from "@/shared/lib/useAct";
import PointPicker from "./PointPicker.vue";

const props = defineProps<{ frame: Frame; output: Output; placed: readonly PointPair[] }>();
const emit = defineEmits<{ done: [] }>();
const { busy, act } = useAct();
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
  if (inFrame.value.length > inOutput.value.length) return "Now the same thing in the output.";
  if (pairs.value.length >= MOST) return "Three pairs are placed.";
  if (pairs.value.length >= 2) return "Two pairs are enough; a third makes it surer.";
  return "Mark something sharp near one corner of the frame, then the same thing in the output.";
});

function add(points: Point[], point: Point): void {
  if (points.length < MOST) points.push(point);
}

async function send(body: { pairs: PointPair[] }, done: string): Promise<void> {
  const params = { path: { output_id: props.output.id } };
  const made = await act(async () => {
    await ask(api.PUT("/api/outputs/{output_id}/points", { params, body }));
    return true;
  }, done);
  if (made) emit("done");
}
</script>

<template>
  <div class="points">
    <div class="toolbar">
      <span>{{ next }}</span>
      <button
        type="button"
        class="link"
        :disabled="!inFrame.length"
        @click="
          inFrame = [];
          inOutput = [];
        "
      >
        Begin again
      </button>
      <span class="end acts">
        <v-btn
          size="small"
          :loading="busy"
          :disabled="pairs.length < 2 || inFrame.length !== inOutput.length"
          @click="send({ pairs }, 'Points placed; it is lined up anew.')"
          >Line up from these</v-btn
        >
        <button
          v-if="placed.length"
          type="button"
          class="link"
          @click="send({ pairs: [] }, 'Points taken away; it is lined up anew.')"
        >
          Take the points away
        </button>
        <button type="button" class="link" @click="emit('done')">Not now</button>
      </span>
    </div>
    <div class="two">
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

<style scoped>
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 16px;
}
.acts {
  display: inline-flex;
  gap: 16px;
  align-items: baseline;
}
.end {
  margin-left: auto;
}
</style>
