<script setup lang="ts">
import { computed } from "vue";

import type { Picture } from "@/api/types";
import { wholeView } from "./geometry";
import TileCanvas from "./TileCanvas.vue";

const props = defineProps<{ picture: Picture; label: string; width?: number }>();
const size = computed(() => {
  const width = props.width ?? 150;
  return { width, height: Math.round(width * 0.66) };
});
const view = computed(() => {
  const ratio = window.devicePixelRatio || 1;
  return wholeView(props.picture, {
    width: size.value.width * ratio,
    height: size.value.height * ratio,
  });
});
</script>

<template>
  <div
    class="thumb on-surround flex-0-0"
    :style="{ width: `${size.width}px`, height: `${size.height}px` }"
  >
    <TileCanvas v-if="picture.state === 'ready'" :picture="picture" :view="view" :label="label" />
    <span v-else class="note pa-2 d-block small">{{
      picture.state === "refused" ? "refused" : "being read"
    }}</span>
  </div>
</template>

<style scoped>
.note {
  color: var(--ink);
  background: var(--sheet);
}
</style>
