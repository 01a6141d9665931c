<script setup lang="ts">
// The like-for-like checklist: per contender what differs, by how much, and what was done about it.
import { computed } from "vue";

import { useAddress } from "@/shared/lib/useAddress";
import { type Listed, useFindings } from "./useFindings";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { capital, counted } from "@/shared/lib/words";
import BringInTabs from "@/studies/bring-in/BringInTabs.vue";
import ChoiceBar from "@/shared/ui/ChoiceBar.vue";
import FindingRow from "./FindingRow.vue";
import LetterBox from "@/shared/ui/LetterBox.vue";
import MatchingPanel from "./MatchingPanel.vue";

const { study, canEdit } = useStudyContext();
const { audit, error, groups, byRule, busy, decide, reopen } = useFindings(study);
const { inAddress } = useAddress();
const SHOWN = [
  ["", "what needs a decision"],
  ["all", "everything found"],
] as const;
const ARRANGED = [
  ["", "by contender"],
  ["finding", "by finding"],
] as const;
const shown = inAddress("show");
const arranged = inAddress("by");
const seen = (f: Listed) => shown.value === "all" || f.state !== "harmless";
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
  <BringInTabs />
  <p v-if="error && !audit" class="rowan">{{ error.message }}</p>
  <template v-if="audit">
    <section class="block">
      <div class="block-head">
        <h2 :class="{ rowan: audit.open }">{{ capital(audit.line) }}</h2>
        <ChoiceBar v-model="arranged" class="end" :options="ARRANGED" label="Findings arranged" />
        <ChoiceBar v-model="shown" :options="SHOWN" label="Findings shown" />
      </div>
      <p class="soft">
        Everything besides “{{ study.factor }}” should be equal. Accept a finding with a reason,
        match it away for a second set of readings, or have the output made again. What stays open
        is printed in the report.
      </p>
      <p v-if="!rows.length" class="soft">
        There is no contender yet.
        <router-link :to="`/studies/${study.id}/set-up`">Enter one</router-link> first.
      </p>
    </section>
    <template v-if="arranged === 'finding'">
      <section v-for="g in rules" :key="g.told.id" class="block" :aria-label="g.told.title">
        <div class="block-head">
          <h3>{{ g.told.title }}</h3>
          <span class="soft">Tolerance {{ g.told.tolerance }}; {{ g.told.found_by }}.</span>
          <span class="end" :class="g.open ? 'rowan' : 'soft'">{{
            g.open ? `${g.open} open` : counted(g.members.length, "contender")
          }}</span>
        </div>
        <ul class="findings">
          <FindingRow
            v-for="m in g.members"
            :key="m.finding.key"
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
      <p v-if="!rules.length" class="soft">Nothing was found that needs a decision.</p>
    </template>
    <section
      v-for="g in arranged === 'finding' ? [] : rows"
      :key="g.contender.id"
      class="block"
      :aria-label="`Findings of ${g.contender.letter}`"
    >
      <div class="block-head">
        <h3><LetterBox :letter="g.contender.letter" /> {{ g.contender.title }}</h3>
        <span class="soft">{{ g.contender.manner }}</span>
        <span class="end" :class="g.open ? 'rowan' : 'soft'">{{
          g.open
            ? `${g.open} open`
            : audit.examined < audit.wanted
              ? "being examined"
              : "nothing open"
        }}</span>
      </div>
      <ul v-if="g.listed.length" class="findings">
        <FindingRow
          v-for="f in g.listed"
          :key="f.key"
          :finding="f"
          :contender="g.contender"
          :busy="busy"
          :can-edit="canEdit"
          @decide="(kind, reason) => decide(f, kind, reason)"
          @reopen="reopen(f)"
        />
      </ul>
      <p v-if="shown !== 'all' && g.harmless" class="soft more">
        {{ counted(g.harmless, "harmless difference") }} besides:
        <button type="button" class="link" @click="shown = 'all'">show</button>
      </p>
      <details>
        <summary>{{ counted(g.kept.length, "rule") }} checked and kept</summary>
        <p class="soft">{{ g.kept.join(" · ") }}</p>
      </details>
    </section>
    <MatchingPanel :audit="audit" />
  </template>
</template>

<style scoped>
.findings {
  list-style: none;
  padding: 0;
  border-top: 1px solid var(--hair);
}
h3 {
  display: flex;
  gap: 8px;
  align-items: center;
}
.more {
  padding-top: 6px;
}
details {
  padding-top: 6px;
}
summary {
  color: var(--soft);
  cursor: pointer;
}
</style>
