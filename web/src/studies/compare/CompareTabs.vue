<script setup lang="ts">
import { useStudyContext } from "@/studies/shared/useStudyContext";

const { study } = useStudyContext();
const tabs = [
  ["compare", "Wall"],
  ["patches", "Patches"],
  ["numbers", "Numbers"],
  ["curves", "Curves"],
  ["answers", "Answers"],
] as const;
</script>

<template>
  <nav class="tabs" aria-label="Ways to compare">
    <router-link v-for="[path, name] in tabs" :key="path" :to="`/studies/${study.id}/${path}`">{{
      name
    }}</router-link>
    <router-link :to="`/studies/${study.id}/look`">Close look</router-link>
  </nav>
</template>

<style scoped>
.tabs {
  display: inline-flex;
  gap: 18px;
}
a {
  color: var(--ink);
  text-decoration: none;
  font-weight: 500;
}
a.router-link-active {
  border-bottom: 2px solid var(--spruce);
}
</style>
