<script setup lang="ts">
import { computed } from "vue";

import { useStudyContext } from "@/studies/shared/useStudyContext";

import { usePlanChanges } from "./mutations";
import { gapsOf } from "./plan";
import { usePlan } from "./queries";

const { study, canEdit } = useStudyContext();
const { data } = usePlan(() => study.value.id);
const { busy, look } = usePlanChanges(() => study.value.id);
const plan = computed(() => data.value?.plan);
const gaps = computed(() => (plan.value ? gapsOf(plan.value) : []));
</script>

<template>
  <v-alert
    v-if="plan && (plan.looking || !plan.looked || gaps.length)"
    class="mt-4"
    role="region"
    aria-label="Plan"
  >
    <p>
      This study was begun by <strong>{{ plan.name }}</strong>.
      <template v-if="plan.looking">Its frames are being looked for on this bench.</template>
      <template v-else-if="!plan.looked">Its frames were not looked for yet.</template>
    </p>
    <template v-if="!plan.looking">
      <div v-for="gap in gaps" :key="gap.says" class="pt-2">
        <p>{{ gap.says }}</p>
        <ul>
          <li v-for="name in gap.names" :key="name">{{ name }}</li>
        </ul>
      </div>
      <v-btn
        v-if="canEdit && (plan.missing.length || !plan.looked)"
        class="mt-3"
        :loading="busy"
        @click="look"
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
