<script setup lang="ts">
import type { Shape } from "@/api/client";

defineProps<{ editions: readonly Shape["EditionOut"][] }>();
const day = (iso: string): string =>
  new Date(iso).toLocaleDateString("en-GB", { day: "numeric", month: "long", year: "numeric" });
</script>

<template>
  <p v-if="!editions.length" class="soft">
    Nothing is published yet; nothing of this study is public.
  </p>
  <ol v-else>
    <li v-for="e in editions" :key="e.number">
      <a :href="e.address">Edition {{ e.number }}</a>
      <span class="soft"
        >{{ day(e.published) }}<template v-if="e.publisher">, {{ e.publisher }}</template></span
      >
      <p v-if="e.note">{{ e.note }}</p>
    </li>
  </ol>
</template>

<style scoped>
ol {
  list-style: none;
  padding: 0;
}
li {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  padding: 8px 0;
  border-bottom: 1px solid var(--hair);
}
li p {
  flex-basis: 100%;
}
</style>
