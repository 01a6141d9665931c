<script setup lang="ts">
// The frame with its patches: drag on the picture to draw, drag a patch to move it, its handles to
// resize.
import { ref, useTemplateRef, watch } from "vue";

import type { Patch, Picture } from "@/api/types";
import { type Drag, usePatchDrag } from "./usePatchDrag";
import { toFrame } from "@/viewer/geometry";
import { type Box, handleAt, HANDLES, moved, resized } from "./patches";
import TileCanvas from "@/viewer/TileCanvas.vue";
import { usePanZoom } from "@/viewer/usePanZoom";
import { useView } from "@/viewer/useView";

const props = defineProps<{
  picture: Picture;
  patches: readonly Patch[];
  suggested: readonly Box[];
  canEdit: boolean;
}>();
const selected = defineModel<number | undefined>("selected");
const emit = defineEmits<{
  draw: [box: Box];
  change: [patch: Patch, box: Box];
  remove: [patch: Patch];
}>();

const board = useTemplateRef<HTMLElement>("board");
const ratio = window.devicePixelRatio || 1;
const look = useView(
  () => props.picture,
  () => device.value,
);
const { view } = look;
const {
  canvas: device,
  local,
  keyed,
  wheel,
} = usePanZoom(board, {
  pan: (dx, dy) => ((touched.value = true), look.pan(dx, dy)),
  zoom,
  whole,
});
const touched = ref(false);
watch(device, () => touched.value || look.whole(), { immediate: true });

const { drag, begin, to, end } = usePatchDrag(() => props.picture, finished);
const shownBox = (p: Patch): Box => (drag.value?.id === p.id ? drag.value.box : p);
/** A patch within another has its name below, so that the two names do not cover each other. */
const within = (p: Patch): boolean =>
  props.patches.some(
    (q) =>
      q.id !== p.id && p.x >= q.x && p.y >= q.y && p.x + p.w <= q.x + q.w && p.y + p.h <= q.y + q.h,
  );
const nameAt = (p: Patch): number => {
  const box = onScreen(shownBox(p));
  return within(p) ? box.y + box.h + 14 : box.y - 5;
};
const onScreen = (box: Box) => ({
  x: ((box.x - view.value.x) * view.value.zoom + device.value.width / 2) / ratio,
  y: ((box.y - view.value.y) * view.value.zoom + device.value.height / 2) / ratio,
  w: (box.w * view.value.zoom) / ratio,
  h: (box.h * view.value.zoom) / ratio,
});

function at(event: MouseEvent): { x: number; y: number } {
  return toFrame(view.value, device.value, ...local(event));
}

function down(event: PointerEvent, kind: Drag["kind"], patch?: Patch): void {
  if (event.button !== 0) return;
  selected.value = patch?.id;
  if (!props.canEdit) return;
  board.value?.setPointerCapture(event.pointerId);
  const point = at(event);
  begin(kind, patch?.id ?? null, point, patch ?? { x: point.x, y: point.y, w: 0, h: 0 });
}

function finished(d: Drag): void {
  if (d.kind === "draw") return emit("draw", d.box);
  const patch = props.patches.find((p) => p.id === d.id);
  if (patch) emit("change", patch, d.box);
}

function zoom(direction: 1 | -1, x?: number, y?: number): void {
  touched.value = true;
  look.zoom(direction, x, y);
}

function whole(): void {
  touched.value = false;
  look.whole();
}

const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

function key(event: KeyboardEvent): void {
  const patch = props.patches.find((p) => p.id === selected.value);
  const arrow = ARROWS[event.key];
  const reach = event.shiftKey ? 10 : 1;
  const { width, height } = props.picture;
  if (arrow && patch && props.canEdit) {
    const [dx, dy] = [arrow[0] * reach, arrow[1] * reach];
    emit(
      "change",
      patch,
      event.altKey
        ? resized(patch, "se", dx, dy, width, height)
        : moved(patch, dx, dy, width, height),
    );
  } else if (event.key === "Delete" && patch && props.canEdit) emit("remove", patch);
  else if (event.key === "Escape") selected.value = undefined;
  else return void keyed(event);
  event.preventDefault();
}
</script>

<template>
  <div>
    <div
      ref="board"
      class="board position-relative on-surround overflow-hidden still"
      tabindex="0"
      role="application"
      aria-label="Frame with its patches. Arrow keys move the selected patch, with Alt its lower right corner; plus and minus change the magnification."
      @pointerdown="down($event, 'draw')"
      @pointermove="to(at($event))"
      @pointerup="end"
      @wheel.prevent="wheel"
      @keydown="key"
    >
      <TileCanvas v-if="view.zoom" :picture="picture" :view="view" label="The frame" />
      <svg class="over position-absolute w-100 h-100 over-all" aria-hidden="true">
        <rect
          v-for="(box, i) in suggested"
          :key="`suggested ${i}`"
          v-bind="{
            x: onScreen(box).x,
            y: onScreen(box).y,
            width: onScreen(box).w,
            height: onScreen(box).h,
          }"
          class="suggested"
        />
        <g v-for="p in patches" :key="p.id">
          <rect
            v-bind="{
              x: onScreen(shownBox(p)).x,
              y: onScreen(shownBox(p)).y,
              width: onScreen(shownBox(p)).w,
              height: onScreen(shownBox(p)).h,
            }"
            class="patch"
            :class="{ selected: p.id === selected }"
            @pointerdown.stop="down($event, 'move', p)"
          />
          <text :x="onScreen(shownBox(p)).x" :y="nameAt(p)">{{ p.name }}</text>
          <template v-if="p.id === selected && canEdit">
            <rect
              v-for="handle in HANDLES"
              :key="handle"
              :x="onScreen({ ...handleAt(shownBox(p), handle), w: 0, h: 0 }).x - 4"
              :y="onScreen({ ...handleAt(shownBox(p), handle), w: 0, h: 0 }).y - 4"
              width="8"
              height="8"
              class="handle"
              :style="{ cursor: `${handle}-resize` }"
              @pointerdown.stop="down($event, handle, p)"
            />
          </template>
        </g>
        <rect
          v-if="drag && drag.kind === 'draw'"
          v-bind="{
            x: onScreen(drag.box).x,
            y: onScreen(drag.box).y,
            width: onScreen(drag.box).w,
            height: onScreen(drag.box).h,
          }"
          class="patch selected"
        />
      </svg>
    </div>
    <div class="row soft pt-2">
      <span v-if="canEdit"
        >Drag on the picture to draw a patch. Drag a patch to move it, its corners and sides to
        resize.</span
      >
      <span class="end row">
        <TextAction @click="zoom(-1)">Zoom out</TextAction>
        <TextAction @click="zoom(1)">Zoom in</TextAction>
        <TextAction @click="whole">Whole frame</TextAction>
      </span>
    </div>
  </div>
</template>

<style scoped>
.board {
  height: max(360px, calc(100dvh - var(--bar) - var(--ruler) - var(--tools) - 60px));
}
.patch {
  fill: transparent;
  stroke: #fff;
  stroke-width: 1.5;
  paint-order: stroke;
  filter: drop-shadow(0 0 1px #000) drop-shadow(0 0 1px #000);
  cursor: move;
}
.suggested {
  fill: none;
  stroke: #fff;
  stroke-width: 1.5;
  stroke-dasharray: 5 4;
  filter: drop-shadow(0 0 1px #000) drop-shadow(0 0 1px #000);
  pointer-events: none;
}
.selected {
  stroke-width: 2.5;
}
.handle {
  fill: #fff;
  stroke: #000;
}
text {
  fill: #fff;
  font: 500 12.5px var(--text);
  paint-order: stroke;
  stroke: #000;
  stroke-width: 3px;
  pointer-events: none;
}
</style>
