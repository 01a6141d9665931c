<script setup lang="ts">
// A study: its question in the bar, its stages on a ruler, one of them below.
import { computed } from "vue";
import { useRoute } from "vue-router";

import { Problem } from "@/api/client";
import type { Study } from "@/api/types";
import NotFound from "@/shared/ui/NotFound.vue";
import { usePageTitle } from "@/shared/lib/useTitle";

import { useStudy } from "./queries";
import StageRuler from "./StageRuler.vue";
import { useStages } from "./useStages";
import { provideStudy } from "./useStudyContext";

const props = defineProps<{ id: number }>();
const route = useRoute();
const { data, error } = useStudy(() => props.id);
// Stages are shown only once there is a study; the assertion is for them.
const study = computed(() => data.value as Study);
const { study: shown } = provideStudy(study);
const stages = useStages(() => props.id, shown);
const PART_OF: Record<string, string> = {
  audit: "bring-in",
  output: "bring-in",
  patches: "compare",
  numbers: "compare",
  curves: "compare",
  series: "compare",
  answers: "compare",
  questions: "compare",
  look: "compare",
  sitting: "judge",
};
// A question's page is named after it, as "questions-order".
const named = computed(() => String(route.name).replace(/^questions-.*/, "questions"));
const current = computed(() => PART_OF[named.value] ?? named.value);
const stage = computed(() => stages.value.find((s) => s.key === current.value)?.name ?? "");
usePageTitle(() => (data.value ? `${stage.value}, ${data.value.question}` : "Study"));
</script>

<template>
  <NotFound
    v-if="error && !data && error instanceof Problem && error.status === 404"
    what="study"
  />
  <p v-else-if="error && !data" class="page rowan">{{ error.message }}</p>
  <v-skeleton-loader v-else-if="!data" type="heading, table" class="page" />
  <template v-else>
    <Teleport defer to="#bar-title">
      <router-link to="/studies" class="plain-link crumb">Studies</router-link>
      <h1 class="question">{{ study.question }}</h1>
    </Teleport>
    <StageRuler :stages="stages" :current="current" />
    <div class="page"><router-view /></div>
  </template>
</template>

<style scoped>
/* Balanced as other headings are, it would be broken over the ruler below. */
.question {
  display: inline;
  text-wrap: nowrap;
  font-size: 16px;
}
</style>
