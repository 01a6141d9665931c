<script setup lang="ts">
// Would anybody see it: contenders by uses, held against one of them.
import { computed } from "vue";

import { useAddress } from "@/shared/lib/useAddress";
import ChoiceBar from "@/shared/ui/ChoiceBar.vue";
import QuietSelect from "@/shared/ui/QuietSelect.vue";
import CompareTabs from "@/studies/compare/CompareTabs.vue";
import InquiryState from "@/studies/compare/questions/InquiryState.vue";
import { useVisibility, useVisibilityChanges } from "@/studies/compare/questions/queries";
import QuestionTabs from "@/studies/compare/questions/QuestionTabs.vue";
import { useStudyContext } from "@/studies/shared/useStudyContext";

import SeenEvidence from "./SeenEvidence.vue";
import SeenTable from "./SeenTable.vue";

const { study, columns, canEdit } = useStudyContext();
const { inAddress } = useAddress();
const rivals = computed(() =>
  columns.value.map((c) => ({ value: c.letter, title: `${c.letter}, ${c.title}` })),
);
const first = () =>
  (columns.value.find((c) => c.kind === "unprocessed") ?? columns.value[0])?.letter ?? "";
const against = inAddress("against", first);
const light = inAddress("light", () => "made");
const matched = computed(() => light.value === "matched" && !!study.value.matched);
const { data, error, isPending } = useVisibility(() => study.value.id, against, matched);
const { busy, look } = useVisibilityChanges(() => study.value.id);
const asked = () => void look(against.value, matched.value);
const found = computed(() => data.value?.found ?? undefined);
/** The cell that is looked into: contender, use and frame. */
const chosen = inAddress("cell");
</script>

<template>
  <div class="toolbar"><CompareTabs /></div>
  <div class="toolbar">
    <QuestionTabs />
    <span class="end row middle ga-2">
      <ChoiceBar
        v-if="study.matched"
        v-model="light"
        label="Light"
        hide-label
        :items="[
          { value: 'made', title: 'As made' },
          { value: 'matched', title: 'Matched' },
        ]"
      />
      <QuietSelect v-model="against" label="Against" :items="rivals" />
    </span>
  </div>
  <p v-if="error" class="rowan">{{ error.message }}</p>
  <v-skeleton-loader v-else-if="isPending" type="table" />
  <template v-else-if="data">
    <InquiryState
      :page="data"
      :found="!!found"
      :busy="busy"
      :can-edit="canEdit"
      doing="Pictures are brought to each use and looked at by a model of seeing"
      @ask="asked"
    />
    <v-empty-state
      v-if="!found && data.state !== 'waiting' && data.state !== 'failed'"
      :title="`Would anybody tell the others from ${against}?`"
      text="Every output is brought to each use, a post, a web picture, a print, and held against the other by a model of seeing: how easily a viewer would see a difference, in how much of the picture, and where most."
    >
      <template v-if="canEdit" #actions>
        <v-btn variant="flat" :loading="busy" @click="asked">Look at all uses</v-btn>
      </template>
    </v-empty-state>
    <template v-if="found">
      <section class="answer py-3" aria-label="Answer">
        <p v-for="words in found.said" :key="words">{{ words }}</p>
        <p v-if="found.matched" class="soft">With {{ found.matched }}.</p>
      </section>
      <SeenTable v-model="chosen" :found="found" />
      <SeenEvidence
        v-if="chosen"
        :key="chosen"
        :study-id="study.id"
        :found="found"
        :chosen="chosen"
      />
      <p class="soft small prose py-4">
        Both pictures are brought to the use’s size and compression and held against each other by
        S-CIELAB (Zhang and Wandell 1997) with CIEDE2000, at the use’s distance. Seen at once: 3
        CIEDE2000 in 1 % of the picture; when pointed at: 1 in 0.1 %. These steps are common
        practice, no source: no sittings have calibrated them. FLIP (Andersson and others 2020)
        stands beside and decides nothing. Videos are left out: what is seen of them is seen moving.
      </p>
    </template>
  </template>
</template>

<style scoped>
.answer {
  font-size: 1.06rem;
}
</style>
