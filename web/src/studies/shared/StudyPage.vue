<script setup lang="ts">
import { computed } from "vue";
import { useRoute } from "vue-router";

import { type Study, useStudy } from "@/api/queries";
import { counted, entered } from "@/shared/lib/words";
import { provideStudy } from "./useStudyContext";
import { useStages } from "./useStages";
import StageRuler from "./StageRuler.vue";

const props = defineProps<{ id: number }>();
const route = useRoute();
const { data, error } = useStudy(() => props.id);
// Stages are shown only once there is a study; the assertion is for them.
const study = computed(() => data.value as Study);
provideStudy(study);
const stages = useStages(() => props.id, study);
const current = computed(() => {
  const name = String(route.name);
  if (name === "audit" || name === "output") return "bring-in";
  return ["patches", "numbers", "curves", "answers"].includes(name) ? "compare" : name;
});
const sums = computed(() => {
  const s = study.value;
  const treatments = s.contenders.filter(entered).length;
  return [
    counted(s.frames.length, "frame"),
    counted(treatments, "contender"),
    counted(s.patches.length, "patch", "patches"),
  ].join(", ");
});
</script>

<template>
  <p v-if="error && !data" class="page rowan">{{ error.message }}</p>
  <div v-else-if="data" class="page">
    <h1 class="question">{{ study.question }}</h1>
    <p class="soft">
      Varies: <strong>{{ study.factor }}</strong>. {{ sums }}.
    </p>
    <StageRuler :stages="stages" :current="current" />
    <router-view />
  </div>
</template>

<style scoped>
.question {
  margin: 20px 0 4px;
}
</style>
