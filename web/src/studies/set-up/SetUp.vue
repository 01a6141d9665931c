<script setup lang="ts">
import { ref, watch } from "vue";

import NextStep from "@/studies/shared/NextStep.vue";
import { useStudyContext } from "@/studies/shared/useStudyContext";

import ContenderList from "./ContenderList.vue";
import FrameList from "./FrameList.vue";
import PlanPanel from "./PlanPanel.vue";
import SeriesBlock from "./SeriesBlock.vue";
import { type Factor, useStudyChanges } from "./mutations";

const { study, canEdit } = useStudyContext();
const { busy, save } = useStudyChanges(() => study.value.id);
const FACTORS: readonly Factor[] = [
  "tool",
  "release",
  "mode",
  "setting",
  "order of steps",
  "body",
  "ISO",
];
const question = ref(study.value.question);
const factor = ref(study.value.factor as Factor);
watch(
  () => [study.value.question, study.value.factor],
  () => {
    question.value = study.value.question;
    factor.value = study.value.factor as Factor;
  },
);
const asked = (text: string): true | string => !!text.trim() || "A study needs a question.";
</script>

<template>
  <v-form
    v-if="canEdit"
    class="question pt-3 d-flex ga-3 flex-wrap align-end"
    @submit.prevent="save(question, factor)"
  >
    <v-text-field
      v-model="question"
      label="Question the study answers"
      maxlength="200"
      :rules="[asked]"
    />
    <v-select v-model="factor" :items="FACTORS" label="What varies" max-width="190" />
    <v-btn
      type="submit"
      height="40"
      :loading="busy"
      :disabled="!question.trim() || (question === study.question && factor === study.factor)"
      >Save</v-btn
    >
  </v-form>
  <PlanPanel />
  <SeriesBlock v-if="study.factor === 'body'" />
  <FrameList />
  <ContenderList />
  <p class="soft pt-4">
    Others can put their own frames to the same treatments:
    <a :href="`/api/studies/${study.id}/method.toml`" download>the method of this study as a file</a
    >. A published edition has its plan, frames and patches included.
  </p>
  <NextStep />
</template>

<style scoped>
.question > :first-child {
  flex: 1 1 420px;
}
</style>
