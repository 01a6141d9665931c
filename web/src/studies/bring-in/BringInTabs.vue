<script setup lang="ts">
import { useAudit } from "@/api/queries";
import { useStudyContext } from "@/studies/shared/useStudyContext";

const { study } = useStudyContext();
const { data: audit } = useAudit(() => study.value.id);
</script>

<template>
  <nav class="tabs" aria-label="Bringing in">
    <router-link :to="`/studies/${study.id}/bring-in`">Outputs</router-link>
    <router-link :to="`/studies/${study.id}/audit`"
      >Like for like<span v-if="audit?.open" class="rowan count"
        >{{ audit.open }} open</span
      ></router-link
    >
  </nav>
</template>

<style scoped>
.tabs {
  display: inline-flex;
  gap: 18px;
  padding-top: 14px;
}
a {
  color: var(--ink);
  text-decoration: none;
  font-weight: 500;
}
a.router-link-active {
  border-bottom: 2px solid var(--spruce);
}
.count {
  margin-left: 7px;
  font-weight: 400;
}
</style>
