<script setup lang="ts">
// The pixels about the pointer's place at 800 %, the same place in every pane.
import { computed } from "vue";

import type { Drawing } from "@/viewer/drawing";
import TileCanvas from "@/viewer/TileCanvas.vue";

const MAGNIFIED = 8;

const props = defineProps<{ drawn: Drawing; spot: { x: number; y: number }; letter: string }>();
const view = computed(() => ({ ...props.spot, zoom: MAGNIFIED }));
</script>

<template>
  <div class="loupe position-absolute" aria-label="Loupe">
    <TileCanvas v-bind="drawn" :view="view" :label="`Loupe of ${letter}`" />
    <i class="pixel position-absolute" aria-hidden="true" />
  </div>
</template>

<style scoped>
.loupe {
  top: 0;
  right: 0;
  width: 168px;
  height: min(168px, 100%);
  border: solid var(--ink);
  border-width: 0 0 1px 1px;
  pointer-events: none;
}
/* The frame's pixel in its middle, not covered. */
.pixel {
  left: calc(50% - 6px);
  top: calc(50% - 6px);
  width: 12px;
  height: 12px;
  border: 1px solid #fff;
  outline: 1px solid #000;
}
</style>
