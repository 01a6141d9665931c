<script setup lang="ts">
// One line on every wall, number and report: like for like, or what is open.
import { computed } from "vue";

import { useAudit } from "@/api/queries";
import { useStudyContext } from "./useStudyContext";
import { capital } from "@/shared/lib/words";

const { study } = useStudyContext();
const { data: audit } = useAudit(() => study.value.id);
const unfair = computed(() => (audit.value?.open ?? 0) > 0);
</script>

<template>
  <p v-if="audit" class="fair" :class="{ rowan: unfair }">
    <router-link :to="`/studies/${study.id}/audit`">{{ capital(audit.line) }}</router-link>
  </p>
</template>

<style scoped>
.fair a {
  color: inherit;
  font-weight: 500;
}
</style>
