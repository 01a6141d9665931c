<script setup lang="ts">
// One picture to mark points in: a click or Enter places one at the cross; arrows move, plus and
// minus magnify.
import { computed, ref, useTemplateRef, watch } from "vue";

import type { Picture } from "@/api/types";
import { useElementSize } from "@/viewer/useElementSize";
import { nextStep, toFrame, type View, wholeView, zoomAt } from "@/viewer/geometry";
import TileCanvas from "@/viewer/TileCanvas.vue";

type Point = { x: number; y: number };
const props = defineProps<{
  picture: Picture;
  title: string;
  points: readonly Point[];
  open: boolean;
}>();
const emit = defineEmits<{ pick: [point: Point]; move: [index: number, point: Point] }>();
const ground = useTemplateRef<HTMLElement>("ground");
const room = useElementSize(ground);
const pixels = window.devicePixelRatio || 1;
const canvas = computed(() => ({
  width: room.value.width * pixels,
  height: room.value.height * pixels,
}));
const view = ref<View>({ x: 0, y: 0, zoom: 0 });
watch(
  () => [canvas.value.width, props.picture.width],
  () => {
    if (canvas.value.width) view.value = wholeView(props.picture, canvas.value);
  },
  { immediate: true },
);
let pressed: { at: [number, number]; moved: boolean } | undefined;

function local(event: MouseEvent): [number, number] {
  const box = ground.value?.getBoundingClientRect();
  return [(event.clientX - (box?.left ?? 0)) * pixels, (event.clientY - (box?.top ?? 0)) * pixels];
}

function down(event: PointerEvent): void {
  pressed = { at: local(event), moved: false };
  ground.value?.setPointerCapture(event.pointerId);
}

function drag(event: PointerEvent): void {
  if (!pressed) return;
  const now = local(event);
  const [dx, dy] = [now[0] - pressed.at[0], now[1] - pressed.at[1]];
  if (!pressed.moved && Math.hypot(dx, dy) < 4) return;
  view.value = {
    ...view.value,
    x: view.value.x - dx / view.value.zoom,
    y: view.value.y - dy / view.value.zoom,
  };
  pressed = { at: now, moved: true };
}

function up(event: PointerEvent): void {
  if (pressed && !pressed.moved) place(toFrame(view.value, canvas.value, ...local(event)));
  pressed = undefined;
}

function place(point: Point): void {
  const inside =
    point.x >= 0 &&
    point.y >= 0 &&
    point.x <= props.picture.width &&
    point.y <= props.picture.height;
  if (inside && props.open) emit("pick", point);
}

function zoom(direction: 1 | -1, x: number, y: number): void {
  view.value = zoomAt(view.value, canvas.value, x, y, nextStep(view.value.zoom, direction));
}

function keyed(event: KeyboardEvent): void {
  const step = 20 / view.value.zoom;
  const moves: Record<string, [number, number]> = {
    ArrowLeft: [-step, 0],
    ArrowRight: [step, 0],
    ArrowUp: [0, -step],
    ArrowDown: [0, step],
  };
  const by = moves[event.key];
  if (by) view.value = { ...view.value, x: view.value.x + by[0], y: view.value.y + by[1] };
  else if (event.key === "+") zoom(1, canvas.value.width / 2, canvas.value.height / 2);
  else if (event.key === "-") zoom(-1, canvas.value.width / 2, canvas.value.height / 2);
  else if (event.key === "Enter") place({ x: view.value.x, y: view.value.y });
  else return;
  event.preventDefault();
}

const marks = computed(() =>
  props.points.map((p, i) => ({
    n: i + 1,
    left: ((p.x - view.value.x) * view.value.zoom + canvas.value.width / 2) / pixels,
    top: ((p.y - view.value.y) * view.value.zoom + canvas.value.height / 2) / pixels,
  })),
);
</script>

<template>
  <section :aria-label="`Points in the ${title.toLowerCase()}`">
    <h3>
      {{ title }}
      <span class="soft"
        >{{ points.length }} of 3<template v-if="open">, click to place</template></span
      >
    </h3>
    <div
      ref="ground"
      class="ground position-relative overflow-hidden on-surround still"
      :class="{ open }"
      tabindex="0"
      role="application"
      :aria-label="`${title}: arrows move, plus and minus magnify, Enter places a point at the cross`"
      @pointerdown="down"
      @pointermove="drag"
      @pointerup="up"
      @pointercancel="pressed = undefined"
      @wheel.prevent="zoom($event.deltaY < 0 ? 1 : -1, ...local($event))"
      @keydown="keyed"
    >
      <TileCanvas v-if="view.zoom" :picture="picture" :view="view" :label="title" />
      <span class="cross position-absolute" aria-hidden="true" />
      <span
        v-for="m in marks"
        :key="m.n"
        class="mark position-absolute text-center"
        :style="{ left: `${m.left}px`, top: `${m.top}px` }"
        >{{ m.n }}</span
      >
    </div>
  </section>
</template>

<style scoped>
.ground {
  height: 400px;
  cursor: grab;
}
.ground.open {
  cursor: crosshair;
}
.cross {
  display: none;
  left: 50%;
  top: 50%;
  width: 15px;
  height: 15px;
  margin: -7.5px;
  background:
    linear-gradient(#fff, #fff) center / 1px 100% no-repeat,
    linear-gradient(#fff, #fff) center / 100% 1px no-repeat;
}
.ground:focus-visible .cross {
  display: block;
}
.mark {
  width: 19px;
  height: 19px;
  margin: -9.5px;
  border: 1.5px solid #fff;
  border-radius: 50%;
  outline: 1.5px solid #111;
  color: #fff;
  text-shadow:
    0 0 3px #000,
    0 0 3px #000;
  font: 600 12px/16px var(--mono);
  pointer-events: none;
}
</style>
