<script setup lang="ts">
import type { Shape } from "@/api/client";
import { day } from "@/shared/lib/formats";

defineProps<{ editions: readonly Shape["EditionOut"][] }>();
</script>

<template>
  <p v-if="!editions.length" class="soft">
    Nothing published yet, and nothing of this study is public.
  </p>
  <ol v-else class="bare">
    <li v-for="e in editions" :key="e.number" class="d-flex flex-wrap gr-1 gc-4 py-2 hair-below">
      <a :href="e.address">Edition {{ e.number }}</a>
      <span class="soft"
        >{{ day(e.published) }}<template v-if="e.publisher">, {{ e.publisher }}</template></span
      >
      <p v-if="e.note">{{ e.note }}</p>
    </li>
  </ol>
</template>

<style scoped>
li p {
  flex-basis: 100%;
}
</style>
