<script setup lang="ts">
import { computed, ref } from "vue";
import { useRouter } from "vue-router";

import { api, ask } from "@/api/client";
import { useSession, useStudies } from "@/api/queries";
import { useAct } from "@/shared/lib/useAct";
import StudyLine from "./StudyLine.vue";

const router = useRouter();
const { data: studies, error } = useStudies();
const { data: session } = useSession();
const { busy, act } = useAct();
const canEdit = computed(() => session.value?.role !== "viewer");
const asking = ref(false);
const question = ref("");
const FACTORS = ["tool", "release", "mode", "setting", "order of steps", "body", "ISO"] as const;
const factor = ref<(typeof FACTORS)[number]>("tool");

async function create(): Promise<void> {
  const body = { question: question.value, factor: factor.value };
  const made = await act(() => ask(api.POST("/api/studies", { body })));
  if (made) await router.push(`/studies/${made.id}/set-up`);
}
</script>

<template>
  <div class="page">
    <div class="head">
      <h1>Studies</h1>
      <v-btn v-if="canEdit && !asking" variant="flat" @click="asking = true">Add study</v-btn>
    </div>
    <form v-if="asking" class="ask" @submit.prevent="create">
      <v-text-field
        v-model="question"
        label="Question the study answers"
        placeholder="Is release 6 better than release 5?"
        autofocus
        maxlength="200"
      />
      <v-select v-model="factor" :items="FACTORS" label="What varies" class="factor" />
      <v-btn type="submit" variant="flat" :loading="busy" :disabled="!question.trim()"
        >Begin the study</v-btn
      >
      <v-btn variant="text" @click="asking = false">Cancel</v-btn>
      <p class="soft note">
        One thing varies; everything else is held still. That is what makes a comparison fair.
      </p>
    </form>
    <p v-if="error" class="rowan">{{ error.message }}</p>
    <div v-else-if="studies?.length" class="list">
      <StudyLine v-for="study in studies" :key="study.id" :study="study" />
    </div>
    <div v-else-if="studies" class="empty">
      <h2>No study yet</h2>
      <p>
        A study starts with a question and one thing that varies. Then come test frames, the
        treatments to compare, and what each of them made of every frame.
      </p>
    </div>
    <p class="soft foot">
      <router-link to="/credits">Credits</router-link> of the sample pictures and the lettering
    </p>
  </div>
</template>

<style scoped>
.head {
  display: flex;
  align-items: center;
  gap: 24px;
  margin: 28px 0 16px;
}
.ask {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: flex-start;
  border-top: 2px solid var(--ink);
  padding: 16px 0 8px;
}
.ask > :first-child {
  flex: 1 1 380px;
}
.factor {
  flex: 0 1 190px;
}
.note {
  flex-basis: 100%;
}
.list {
  border-top: 2px solid var(--ink);
}
.foot {
  margin-top: 28px;
}
.empty {
  border-top: 2px solid var(--ink);
  padding: 24px 0;
  max-width: 560px;
}
</style>
