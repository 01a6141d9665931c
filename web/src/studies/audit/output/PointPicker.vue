<script setup lang="ts">
// One picture to mark points in: a click or Enter places one at the cross; arrows move, plus and
// minus magnify.
import { computed, useTemplateRef, watch } from "vue";

import type { Picture } from "@/api/types";
import { toFrame } from "@/viewer/geometry";
import TileCanvas from "@/viewer/TileCanvas.vue";
import { usePanZoom } from "@/viewer/usePanZoom";
import { useView } from "@/viewer/useView";

type Point = { x: number; y: number };
const props = defineProps<{
  picture: Picture;
  title: string;
  points: readonly Point[];
  open: boolean;
}>();
const emit = defineEmits<{ pick: [point: Point]; move: [index: number, point: Point] }>();
const ground = useTemplateRef<HTMLElement>("ground");
const { view, whole, zoom, pan } = useView(
  () => props.picture,
  () => canvas.value,
);
const { canvas, keyed, wheel, on } = usePanZoom(ground, {
  pan,
  zoom,
  whole,
  click: (x, y) => place(toFrame(view.value, canvas.value, x, y)),
});
const pixels = window.devicePixelRatio || 1;
watch(() => [canvas.value.width, props.picture.width], whole, { immediate: true });

function place(point: Point): void {
  const inside =
    point.x >= 0 &&
    point.y >= 0 &&
    point.x <= props.picture.width &&
    point.y <= props.picture.height;
  if (inside && props.open) emit("pick", point);
}

function key(event: KeyboardEvent): void {
  if (keyed(event) || event.key !== "Enter") return;
  place({ x: view.value.x, y: view.value.y });
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
      v-on="on"
      @wheel.prevent="wheel"
      @keydown="key"
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
