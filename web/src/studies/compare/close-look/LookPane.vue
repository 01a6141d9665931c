<script setup lang="ts">
import { computed, useTemplateRef } from "vue";

import type { Contender, Patch } from "@/api/types";
import type { Pane, Scale } from "./useLook";
import {
  atOwnPixels,
  IDENTITY,
  magnifications,
  type Size,
  toCanvas,
  type View,
} from "@/viewer/geometry";
import { tableFor, type ViewMatch } from "@/viewer/matching";
import TileCanvas from "@/viewer/TileCanvas.vue";
import { usePanZoom } from "@/viewer/usePanZoom";
import LookHead from "./LookHead.vue";

const props = defineProps<{
  pane: Pane;
  choices: readonly Contender[];
  view: View;
  patch: Patch | undefined;
  active: boolean;
  match: ViewMatch;
  scale: Scale;
  pinned: boolean;
}>();
const emit = defineEmits<{
  choose: [];
  pin: [];
  show: [letter: string];
  pan: [dx: number, dy: number];
  zoom: [direction: 1 | -1, x?: number, y?: number];
  point: [view: View, x: number, y: number, size: { width: number; height: number }];
}>();
const tiles = useTemplateRef<InstanceType<typeof TileCanvas>>("tiles");
const ground = useTemplateRef<HTMLElement>("ground");
const output = computed(() => props.pane.output);
const shown = computed(() => (output.value?.state === "ready" ? output.value.picture : null));
const table = computed(() => tableFor(props.match, output.value?.tone));
const lies = computed(() => output.value?.lineup ?? IDENTITY);
const seen = computed(() =>
  props.scale === "subject" ? props.view : atOwnPixels(props.view, lies.value),
);
const both = computed(
  () => magnifications(seen.value, lies.value) + (table.value ? `, ${props.match} matched` : ""),
);
const why = computed(() => {
  if (!output.value)
    return props.pane.contender.kind === "truth"
      ? "This frame has no truth."
      : "No output of this frame yet.";
  return output.value.problem || "It is still being taken in and lined up.";
});
/** Device pixels of the shared view for one of this pane's. */
const share = (): number => props.view.zoom / seen.value.zoom;
const { canvas, wheel, on } = usePanZoom(ground, {
  pan: (dx, dy) => emit("pan", dx * share(), dy * share()),
  // The place under the pointer stays there in this pane, whatever it is magnified by.
  zoom: (direction, x = canvas.value.width / 2, y = canvas.value.height / 2) => {
    const [cx, cy] = [canvas.value.width / 2, canvas.value.height / 2];
    emit("zoom", direction, cx + (x - cx) * share(), cy + (y - cy) * share());
  },
  hover: (x, y) => emit("point", seen.value, x, y, canvas.value),
});

/** What this pane shows of a place of the frame. */
function sample(
  at: { x: number; y: number },
  size: Size,
): { letter: string; codes: [number, number, number] } | null {
  const { x, y } = toCanvas(seen.value, size, at.x, at.y);
  const codes = shown.value ? tiles.value?.codesAt(x, y) : null;
  return codes ? { letter: props.pane.contender.letter, codes } : null;
}

defineExpose({ sample });
</script>

<template>
  <section
    class="pane in-grid shrinks"
    :class="{ active }"
    :aria-label="`Pane with ${pane.contender.letter}`"
    tabindex="0"
    @focusin="emit('choose')"
  >
    <LookHead
      :contender="pane.contender"
      :choices="choices"
      :magnification="both"
      :pinned="pinned"
      @show="emit('show', $event)"
      @pin="emit('pin')"
    />
    <div
      ref="ground"
      class="ground on-surround cursor-grab still shrinks"
      v-on="on"
      @pointerdown="emit('choose')"
      @wheel.prevent="wheel"
    >
      <TileCanvas
        v-if="shown"
        ref="tiles"
        :picture="shown"
        :mapping="output?.lineup"
        :view="seen"
        :table="table"
        :label="`${patch?.name ?? 'frame'} of ${pane.contender.letter}`"
      />
      <p v-else class="none text-center">{{ why }}</p>
    </div>
  </section>
</template>

<style scoped>
.pane {
  grid-template-rows: 60px minmax(0, 1fr);
  border-right: 1px solid var(--ink);
  border-bottom: 1px solid var(--ink);
  min-height: 0;
}
.active > :first-child {
  box-shadow: inset 0 2px 0 var(--ink);
}
.none {
  background: var(--paper);
  color: var(--ink);
  padding: 40px 24px;
}
</style>
