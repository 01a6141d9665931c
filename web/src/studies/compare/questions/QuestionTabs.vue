<script setup lang="ts">
// The questions that may be asked of a whole study, each with its page.
import { computed } from "vue";

import StageTabs from "@/studies/shared/StageTabs.vue";
import { useStudyContext } from "@/studies/shared/useStudyContext";

import { QUESTIONS } from "./questions";

const { study } = useStudyContext();
const tabs = computed(() =>
  QUESTIONS.map(({ about, title }) => ({
    to: `/studies/${study.value.id}/questions/${about}`,
    title,
  })),
);
</script>

<template>
  <StageTabs label="Questions of the whole study" :tabs="tabs" />
</template>
