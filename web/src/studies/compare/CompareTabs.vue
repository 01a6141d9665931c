<script setup lang="ts">
import { computed } from "vue";
import { useRoute } from "vue-router";

import StageTabs from "@/studies/shared/StageTabs.vue";
import { useStudyContext } from "@/studies/shared/useStudyContext";

const { study } = useStudyContext();
const TABS = [
  ["compare", "Wall"],
  ["patches", "Patches"],
  ["numbers", "Numbers"],
  ["curves", "Curves"],
  ["series", "Series over ISO"],
  ["answers", "Answers"],
  ["questions", "Questions"],
  ["look", "Close look"],
] as const;
const route = useRoute();
/** A tab with pages of its own leads to the one that is open. */
function addressOf(path: string): string {
  const home = `/studies/${study.value.id}/${path}`;
  return path === "questions" && route.path.startsWith(home) ? route.path : home;
}
// A series is of bodies; other studies have none.
const tabs = computed(() =>
  TABS.filter(([path]) => path !== "series" || study.value.factor === "body").map(
    ([path, title]) => ({ to: addressOf(path), title }),
  ),
);
</script>

<template>
  <StageTabs label="Ways to compare" :tabs="tabs" />
</template>
