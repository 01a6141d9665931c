<script setup lang="ts">
// At the foot of a stage: what is missing next, and the way there.
import { computed } from "vue";

import { nextStep } from "./nextStep";
import { useAudit } from "./queries";
import { useStudyContext } from "./useStudyContext";

const { study, canEdit } = useStudyContext();
const { data: audit } = useAudit(() => study.value.id);
const step = computed(() => nextStep(study.value, audit.value));
const to = computed(() => `/studies/${study.value.id}/${step.value.path}`);
</script>

<template>
  <aside v-if="canEdit" class="next block row middle" aria-label="Next step">
    <span>{{ step.words }}</span>
    <v-btn v-if="!$route.path.startsWith(to)" variant="flat" :to="to">{{ step.action }}</v-btn>
  </aside>
</template>
