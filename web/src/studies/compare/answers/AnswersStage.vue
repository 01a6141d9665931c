<script setup lang="ts">
// What the readings answer: findings in words, who wins where, and what is traded for what.
import { computed } from "vue";

import { useAnswers, useReadings } from "@/studies/compare/queries";
import { useAddress } from "@/shared/lib/useAddress";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import BasisSelect from "@/studies/compare/BasisSelect.vue";
import CompareTabs from "@/studies/compare/CompareTabs.vue";
import FairLine from "@/studies/shared/FairLine.vue";
import AskedBlock from "./AskedBlock.vue";
import ChosenBlock from "./ChosenBlock.vue";
import ParagraphsBlock from "./ParagraphsBlock.vue";
import SentencesBlock from "./SentencesBlock.vue";
import StandingsBlock from "./StandingsBlock.vue";
import TradeBlock from "./TradeBlock.vue";

const { study } = useStudyContext();
const { inAddress } = useAddress();
const chosen = inAddress("readings");
const basis = computed(() => (study.value.matched ? chosen.value : ""));
const { data: readings } = useReadings(() => study.value.id);
const { data, error } = useAnswers(() => study.value.id, basis);
const missing = computed(() => (readings.value ? readings.value.wanted - readings.value.there : 0));
const measures = computed(() => {
  const there = new Set(data.value?.measures);
  return (readings.value?.measures ?? []).filter((m) => there.has(m.id));
});
</script>

<template>
  <div class="toolbar">
    <CompareTabs />
    <span class="end row middle">
      <BasisSelect v-model="chosen" />
      <span v-if="missing > 0" class="soft">{{ missing }} readings to come</span>
    </span>
  </div>
  <ParagraphsBlock
    v-if="data?.paragraphs.length && readings"
    :paragraphs="data.paragraphs"
    :readings="readings.readings"
    :measures="readings.measures"
  />
  <ChosenBlock />
  <AskedBlock />
  <FairLine />
  <p v-if="error" class="rowan">{{ error.message }}</p>
  <template v-if="data && readings">
    <p v-if="!study.patches.length" class="soft py-4">
      {{ measures.length ? "Only whole frames are measured so far." : "Nothing is measured yet." }}
      <router-link :to="`/studies/${study.id}/patches`">Draw patches</router-link>, so that noise,
      detail and artefacts can be told apart.
    </p>
    <template v-if="measures.length">
      <SentencesBlock
        :found="data.findings"
        :readings="readings.readings"
        :measures="readings.measures"
      />
      <StandingsBlock :measures="measures" :thresholds="data.thresholds" :basis="basis" />
      <TradeBlock :measures="measures" :basis="basis" />
    </template>
  </template>
</template>
