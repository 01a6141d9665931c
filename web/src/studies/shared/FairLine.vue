<script setup lang="ts">
// One line on every wall, number and report: like for like, or what is open.
import { computed } from "vue";

import { useAudit } from "@/studies/shared/queries";
import { useStudyContext } from "./useStudyContext";
import { capital, counted } from "@/shared/lib/words";

const props = defineProps<{ short?: boolean }>();
const { study } = useStudyContext();
const { data: audit } = useAudit(() => study.value.id);
const words = computed(() => {
  const now = audit.value;
  if (!now) return "";
  return props.short && now.open ? counted(now.open, "open finding") : capital(now.line);
});
const unfair = computed(() => (audit.value?.open ?? 0) > 0);
</script>

<template>
  <p v-if="audit" class="fair" :class="{ rowan: unfair }">
    <router-link :to="`/studies/${study.id}/audit`">{{ words }}</router-link>
  </p>
</template>

<style scoped>
.fair a {
  color: inherit;
  font-weight: 500;
}
</style>
