<script setup lang="ts">
// The line that is measured along, over a pane's picture; it takes no clicks.
import { computed } from "vue";

import { type Size, toCanvas, type View } from "@/viewer/geometry";
import type { Line } from "@/viewer/profile";

const props = defineProps<{ line: Line; view: View; canvas: Size }>();
const ratio = window.devicePixelRatio || 1;
const ends = computed(() => {
  const { x0, y0, x1, y1 } = props.line;
  const [from, to] = [
    toCanvas(props.view, props.canvas, x0, y0),
    toCanvas(props.view, props.canvas, x1, y1),
  ];
  return { x1: from.x / ratio, y1: from.y / ratio, x2: to.x / ratio, y2: to.y / ratio };
});
</script>

<template>
  <svg class="line position-absolute w-100 h-100" aria-hidden="true">
    <line v-bind="ends" stroke="#000" stroke-width="3" />
    <line v-bind="ends" stroke="#fff" stroke-width="1" />
    <!-- Its beginning is where the chart begins. -->
    <circle :cx="ends.x1" :cy="ends.y1" r="4" fill="#fff" stroke="#000" />
  </svg>
</template>

<style scoped>
.line {
  inset: 0;
  pointer-events: none;
}
</style>
