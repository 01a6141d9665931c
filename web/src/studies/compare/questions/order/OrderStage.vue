<script setup lang="ts">
// The same steps in every order: where the order matters, and where not.
import { computed } from "vue";

import LetterBox from "@/shared/ui/LetterBox.vue";
import CompareTabs from "@/studies/compare/CompareTabs.vue";
import InquiryState from "@/studies/compare/questions/InquiryState.vue";
import { useOrder, useOrderChanges } from "@/studies/compare/questions/queries";
import QuestionTabs from "@/studies/compare/questions/QuestionTabs.vue";
import { useStudyContext } from "@/studies/shared/useStudyContext";

import OrderTable from "./OrderTable.vue";

const { study, canEdit } = useStudyContext();
const { data, error, isPending } = useOrder(() => study.value.id);
const { busy, compare, enterBetween } = useOrderChanges(() => study.value.id);
const found = computed(() => data.value?.found ?? undefined);
</script>

<template>
  <div class="toolbar"><CompareTabs /></div>
  <div class="toolbar"><QuestionTabs /></div>
  <p v-if="error" class="rowan">{{ error.message }}</p>
  <v-skeleton-loader v-else-if="isPending" type="table" />
  <template v-else-if="data">
    <InquiryState
      :page="data"
      :found="!!found"
      :busy="busy"
      :can-edit="canEdit"
      doing="Each order is held against the first"
      @ask="compare"
    />
    <v-empty-state
      v-if="!found && data.state !== 'waiting' && data.state !== 'failed'"
      title="Does the order of steps matter?"
      text="Enter one treatment of two steps or more as a series over the order of its steps. Each order is held against the first on every patch: where it matters, and where not."
    >
      <template v-if="canEdit" #actions>
        <v-btn variant="flat" :loading="busy" @click="compare">Compare the orders</v-btn>
        <v-btn :to="`/studies/${study.id}/set-up`">Enter orders</v-btn>
      </template>
    </v-empty-state>
    <template v-if="found">
      <section class="answer py-3" aria-label="Answer">
        <p v-for="words in found.said" :key="words">{{ words }}</p>
      </section>
      <section
        v-for="(group, i) in found.groups"
        :key="i"
        class="block"
        :aria-label="`Orders ${i + 1}`"
      >
        <div class="block-head middle">
          <h2>Orders</h2>
          <span class="end row middle">
            <v-btn v-if="canEdit" size="small" :loading="busy" @click="enterBetween"
              >Enter what lies between</v-btn
            >
            <router-link :to="`/studies/${study.id}/compare`">See them on the wall</router-link>
          </span>
        </div>
        <p v-for="one in group" :key="one.letter" class="d-flex ga-2 align-center py-1">
          <LetterBox :letter="one.letter" /> {{ one.order }}
        </p>
      </section>
      <OrderTable v-for="pair in found.pairs" :key="pair.one + pair.other" :pair="pair" />
    </template>
  </template>
</template>

<style scoped>
.answer {
  font-size: 1.06rem;
}
</style>
