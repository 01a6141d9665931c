<script setup lang="ts">
// The like-for-like checklist: per contender what differs, by how much, and what was done about it.
import { computed, ref } from "vue";

import { useAddress } from "@/shared/lib/useAddress";
import { type Listed, useFindings } from "./useFindings";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { capital, counted } from "@/shared/lib/words";
import BringInTabs from "@/studies/bring-in/BringInTabs.vue";
import ChoiceBar from "@/shared/ui/ChoiceBar.vue";
import FindingRow from "./FindingRow.vue";
import NextStep from "@/studies/shared/NextStep.vue";
import LetterBox from "@/shared/ui/LetterBox.vue";
import MatchingPanel from "./MatchingPanel.vue";

const { study, canEdit } = useStudyContext();
const { audit, error, groups, byRule, busy, decide, reopen, acceptAll } = useFindings(study);
const { inAddress } = useAddress();
const SHOWN = [
  { value: "", title: "Needs a decision" },
  { value: "all", title: "Everything" },
];
const ARRANGED = [
  { value: "", title: "Contender" },
  { value: "finding", title: "Finding" },
];
const shown = inAddress("show");
const arranged = inAddress("by");
const seen = (f: Listed) => shown.value === "all" || f.state !== "harmless";
// Findings marked to be accepted together, by key.
const marked = ref<string[]>([]);
const reason = ref("");
const chosen = computed(() =>
  (audit.value?.findings ?? []).filter((f) => f.open && marked.value.includes(f.key)),
);

async function accept(): Promise<void> {
  if (await acceptAll(chosen.value, reason.value)) {
    marked.value = [];
    reason.value = "";
  }
}
const rules = computed(() =>
  byRule.value
    .map((g) => ({ ...g, members: g.members.filter((m) => seen(m.finding)) }))
    .filter((g) => g.members.length),
);
const rows = computed(() =>
  groups.value.map((g) => ({
    ...g,
    listed: g.findings.filter(seen),
    harmless: g.findings.filter((f) => f.state === "harmless").length,
    open: g.findings.filter((f) => f.open).length,
  })),
);
</script>

<template>
  <div class="toolbar">
    <BringInTabs />
    <span class="end row middle">
      <ChoiceBar v-model="arranged" :items="ARRANGED" label="Group by" />
      <ChoiceBar v-model="shown" :items="SHOWN" label="Show" />
    </span>
  </div>
  <p v-if="error && !audit" class="rowan">{{ error.message }}</p>
  <template v-if="audit">
    <section class="pt-3">
      <div class="block-head">
        <h2 :class="{ rowan: audit.open }">{{ capital(audit.line) }}</h2>
      </div>
      <p class="soft">
        Outputs should differ in nothing but the {{ study.factor }}. Accept a finding with a reason,
        match it for a second set of readings, or make the output again. What stays open is printed
        in the report.
      </p>
      <p v-if="!rows.length" class="soft">
        No contender yet.
        <router-link :to="`/studies/${study.id}/set-up`">Add contenders</router-link>.
      </p>
    </section>
    <template v-if="arranged === 'finding'">
      <section v-for="g in rules" :key="g.told.id" class="block" :aria-label="g.told.title">
        <div class="block-head">
          <h3 class="d-flex ga-2 align-center">{{ g.told.title }}</h3>
          <span class="soft">Tolerance {{ g.told.tolerance }}; {{ g.told.found_by }}.</span>
          <span class="end" :class="g.open ? 'rowan' : 'soft'">{{
            g.open ? `${g.open} open` : counted(g.members.length, "contender")
          }}</span>
        </div>
        <ul class="bare findings hair-above">
          <FindingRow
            v-for="m in g.members"
            :key="m.finding.key"
            v-model:marked="marked"
            :finding="m.finding"
            :contender="m.contender"
            :busy="busy"
            :can-edit="canEdit"
            within
            @decide="(kind, reason) => decide(m.finding, kind, reason)"
            @reopen="reopen(m.finding)"
          />
        </ul>
      </section>
      <p v-if="!rules.length" class="soft">No finding needs a decision.</p>
    </template>
    <section
      v-for="g in arranged === 'finding' ? [] : rows"
      :key="g.contender.id"
      class="block"
      :aria-label="`Findings of ${g.contender.letter}`"
    >
      <div class="block-head">
        <h3 class="d-flex ga-2 align-center">
          <LetterBox :letter="g.contender.letter" /> {{ g.contender.title }}
        </h3>
        <span class="soft">{{ g.contender.manner }}</span>
        <span class="end" :class="g.open ? 'rowan' : 'soft'">{{
          g.open
            ? `${g.open} open`
            : audit.examined < audit.wanted
              ? "being examined"
              : "like for like"
        }}</span>
      </div>
      <ul v-if="g.listed.length" class="bare findings hair-above">
        <FindingRow
          v-for="f in g.listed"
          :key="f.key"
          v-model:marked="marked"
          :finding="f"
          :contender="g.contender"
          :busy="busy"
          :can-edit="canEdit"
          @decide="(kind, reason) => decide(f, kind, reason)"
          @reopen="reopen(f)"
        />
      </ul>
      <p v-if="shown !== 'all' && g.harmless" class="soft pt-1">
        {{ counted(g.harmless, "harmless difference") }}:
        <TextAction @click="shown = 'all'">Show</TextAction>
      </p>
      <details class="pt-2">
        <summary class="soft cursor-pointer">{{ counted(g.kept.length, "rule") }} kept</summary>
        <p class="soft">{{ g.kept.join(" · ") }}</p>
      </details>
    </section>
    <v-form
      v-if="chosen.length"
      class="together row middle position-sticky"
      @submit.prevent="accept"
    >
      <strong>{{ counted(chosen.length, "finding") }} selected</strong>
      <v-text-field
        v-model="reason"
        aria-label="Reason for accepting them, printed in the report"
        placeholder="Reason, printed in the report"
        maxlength="300"
        hide-details
      />
      <v-btn type="submit" height="40" :loading="busy" :disabled="!reason.trim()">Accept all</v-btn>
      <TextAction @click="marked = []">Clear selection</TextAction>
    </v-form>
    <MatchingPanel :audit="audit" />
    <NextStep />
  </template>
</template>

<style scoped>
.together {
  bottom: 12px;
  z-index: 2;
  padding: 9px 12px;
  background: var(--sheet);
  border: 1px solid var(--ink);
}
</style>
