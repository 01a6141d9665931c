<script setup lang="ts">
import { computed } from "vue";

import { usePageTitle } from "@/shared/lib/useTitle";

import { CHAPTERS } from "./guide";

const props = defineProps<{ chapter: string }>();
const shown = computed(() => CHAPTERS.find((c) => c.key === props.chapter) ?? CHAPTERS[0]);
usePageTitle(() => `${shown.value?.title ?? ""}, user guide`);
</script>

<template>
  <div style="--columns: 210px minmax(0, 1fr)" class="page in-grid ga-8 pt-6 columns folds">
    <nav aria-label="Chapters" class="stack align-content-start">
      <p class="strong">User guide</p>
      <router-link v-for="c in CHAPTERS" :key="c.key" :to="`/guide/${c.key}`">{{
        c.title
      }}</router-link>
    </nav>
    <!-- eslint-disable-next-line vue/no-v-html -- our own text, without HTML -->
    <article v-if="shown" class="prose" v-html="shown.html" />
  </div>
</template>

<style scoped>
.router-link-active {
  color: var(--ink);
  font-weight: 600;
  text-decoration: none;
}
article :deep(:is(p, ul, ol, table, h2)) {
  margin: 0 0 12px;
}
article :deep(h1) {
  margin-bottom: 14px;
}
article :deep(h2) {
  margin-top: 24px;
}
article :deep(img) {
  max-width: 100%;
  border: 1px solid var(--rule);
}
</style>
