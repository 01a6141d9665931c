<script setup lang="ts">
import { computed } from "vue";

import { useStudyContext } from "@/studies/shared/useStudyContext";
import { useWork } from "@/queue/useWork";

import { usePlanChanges } from "./mutations";
import { gapsOf } from "./plan";
import { usePlan } from "./queries";

const { study, canEdit } = useStudyContext();
const { data } = usePlan(() => study.value.id);
const { busy, look } = usePlanChanges(() => study.value.id);
const work = useWork();
const plan = computed(() => data.value?.plan);
const gaps = computed(() => (plan.value ? gapsOf(plan.value) : []));
const looking = computed(() =>
  work.jobs.value.some(
    (j) =>
      j.kind === "find planned frames" &&
      j.study_id === study.value.id &&
      ["queued", "running"].includes(j.state),
  ),
);
</script>

<template>
  <v-alert v-if="plan && (looking || gaps.length)" class="mt-4" role="region" aria-label="Plan">
    <p>
      This study was begun by <strong>{{ plan.name }}</strong>.
      <template v-if="looking">Its frames are being looked for on this bench.</template>
    </p>
    <template v-if="!looking">
      <div v-for="gap in gaps" :key="gap.says" class="pt-2">
        <p>{{ gap.says }}</p>
        <ul>
          <li v-for="name in gap.names" :key="name">{{ name }}</li>
        </ul>
      </div>
      <v-btn v-if="canEdit && plan.missing.length" class="mt-3" :loading="busy" @click="look"
        >Look again</v-btn
      >
    </template>
  </v-alert>
</template>

<style scoped>
ul {
  padding-left: 18px;
}
</style>
