<script setup lang="ts">
import { computed } from "vue";

import { useAudit } from "@/studies/shared/queries";
import StageTabs from "@/studies/shared/StageTabs.vue";
import { useStudyContext } from "@/studies/shared/useStudyContext";

const { study } = useStudyContext();
const { data: audit } = useAudit(() => study.value.id);
const tabs = computed(() => {
  const open = audit.value?.open ?? 0;
  return [
    { to: `/studies/${study.value.id}/bring-in`, title: "Outputs" },
    {
      to: `/studies/${study.value.id}/audit`,
      title: "Like for like",
      note: open ? `${open} open` : undefined,
      unfair: true,
    },
  ];
});
</script>

<template>
  <StageTabs label="Bringing in" :tabs="tabs" />
</template>
