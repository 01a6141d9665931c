<script setup lang="ts">
// A picture small, in a list: lossy, a few kB; looking closely is done elsewhere.
import { computed } from "vue";

import type { Picture } from "@/api/types";

const props = defineProps<{ picture: Picture; label: string; width?: number }>();
const size = computed(() => {
  const width = props.width ?? 150;
  return { width, height: Math.round(width * 0.66) };
});
const address = computed(() => `/api/pictures/${props.picture.id}/thumb.webp`);
</script>

<template>
  <div
    class="thumb on-surround flex-0-0"
    :style="{ width: `${size.width}px`, height: `${size.height}px` }"
  >
    <img
      v-if="picture.state === 'ready'"
      class="d-block w-100 h-100"
      :src="address"
      :alt="label"
      loading="lazy"
      decoding="async"
    />
    <span v-else class="note pa-2 d-block small">{{
      picture.state === "refused" ? "refused" : "being read"
    }}</span>
  </div>
</template>

<style scoped>
img {
  object-fit: contain;
}
.note {
  color: var(--ink);
  background: var(--sheet);
}
</style>
