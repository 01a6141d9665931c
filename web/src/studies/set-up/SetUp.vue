<script setup lang="ts">
import { ref, watch } from "vue";

import { api, ask } from "@/api/client";
import { useAct } from "@/shared/lib/useAct";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import ContenderList from "./ContenderList.vue";
import FrameList from "./FrameList.vue";

const { study, canEdit } = useStudyContext();
const { busy, act } = useAct();
const FACTORS = ["tool", "release", "mode", "setting", "order of steps", "body", "ISO"] as const;
const question = ref(study.value.question);
const factor = ref(study.value.factor as (typeof FACTORS)[number]);
watch(
  () => [study.value.question, study.value.factor],
  () => {
    question.value = study.value.question;
    factor.value = study.value.factor as (typeof FACTORS)[number];
  },
);

function save(): Promise<unknown> {
  const params = { path: { study_id: study.value.id } };
  const body = { question: question.value, factor: factor.value };
  return act(() => ask(api.PATCH("/api/studies/{study_id}", { params, body })), "Question saved.");
}
</script>

<template>
  <section v-if="canEdit" class="block">
    <div class="block-head"><h2>Question</h2></div>
    <form class="question" @submit.prevent="save">
      <v-text-field v-model="question" label="Question the study answers" maxlength="200" />
      <v-select v-model="factor" :items="FACTORS" label="What varies" class="factor" />
      <v-btn
        type="submit"
        :loading="busy"
        :disabled="question === study.question && factor === study.factor"
        >Save</v-btn
      >
    </form>
  </section>
  <FrameList />
  <ContenderList />
</template>

<style scoped>
.question {
  display: flex;
  gap: 12px;
  flex-wrap: wrap;
  align-items: flex-end;
}
.question .v-btn {
  height: 40px;
}
.question > :first-child {
  flex: 1 1 420px;
}
.factor {
  flex: 0 1 190px;
}
</style>
