<script setup lang="ts">
// What was chosen at one spot.
import type { Shape } from "@/api/client";
import { useStudyContext } from "@/studies/shared/useStudyContext";

import ChancesTable from "./ChancesTable.vue";
import { useSpotOutcome } from "./queries";

const props = defineProps<{
  sitting: Shape["SittingWhole"];
  spot: number;
  titles: Readonly<Record<string, string>>;
}>();
const { study } = useStudyContext();
const { data } = useSpotOutcome(
  () => study.value.id,
  () => props.sitting.id,
  () => props.spot,
);
</script>

<template>
  <template v-if="data?.results">
    <p>
      {{ data.results.said }} <span class="soft">{{ data.results.speaks }}</span>
    </p>
    <ChancesTable :results="data.results" :titles="titles" />
  </template>
  <p v-else-if="data" class="soft">Nothing was asked there.</p>
</template>
