<script setup lang="ts">
import { computed } from "vue";

import StageTabs from "@/studies/shared/StageTabs.vue";
import { useStudyContext } from "@/studies/shared/useStudyContext";

const { study } = useStudyContext();
const TABS = [
  ["compare", "Wall"],
  ["patches", "Patches"],
  ["numbers", "Numbers"],
  ["curves", "Curves"],
  ["answers", "Answers"],
  ["look", "Close look"],
] as const;
const tabs = computed(() =>
  TABS.map(([path, title]) => ({ to: `/studies/${study.value.id}/${path}`, title })),
);
</script>

<template>
  <StageTabs label="Ways to compare" :tabs="tabs" />
</template>
