<script setup lang="ts">
// One verdict: for what, in words, how contenders stand, and what it rests on.
import { computed } from "vue";

import type { Shape } from "@/api/client";
import LetterBox from "@/shared/ui/LetterBox.vue";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { useUses } from "@/studies/shared/uses/queries";

import EvidenceList from "./EvidenceList.vue";
import { evidenceFor, JUDGED, type Judged, type Line, linked } from "./matrix";
import type { VerdictLines } from "./useVerdictLines";

const props = defineProps<{
  verdicts: VerdictLines;
  line: Line;
  evidence: Shape["VerdictEvidenceOut"] | undefined;
  scenes: readonly { scene: string; title: string }[];
}>();
const { treatments, canEdit } = useStudyContext();
const uses = useUses();
const names = computed(() => uses.value.map((u) => u.name));
const scenes = computed(() => props.scenes.map((s) => ({ value: s.scene, title: s.title })));
const known = computed(() =>
  evidenceFor(props.evidence?.cells ?? [], props.line.use, props.line.scene),
);
const judged = computed(() =>
  treatments.value.filter((c) => c.letter !== props.evidence?.reference),
);

function mark(letter: string, to: Judged | undefined): void {
  const marks = { ...props.line.marks };
  if (to) marks[letter] = to;
  else Reflect.deleteProperty(marks, letter);
  props.verdicts.change({ marks });
}
</script>

<template>
  <section class="editor stack pa-4 mt-3" aria-label="The verdict">
    <div class="d-flex flex-wrap ga-3">
      <v-combobox
        :model-value="line.use"
        label="Use"
        maxlength="80"
        class="for use"
        :items="names"
        :readonly="!canEdit"
        @update:search="verdicts.change({ use: $event ?? '' })"
      />
      <v-select
        :model-value="line.scene"
        label="Kind of scene"
        class="for"
        :items="scenes"
        :readonly="!canEdit"
        @update:model-value="verdicts.change({ scene: $event ?? '' })"
      />
      <v-text-field
        :model-value="line.text"
        label="Verdict"
        maxlength="400"
        class="text"
        :readonly="!canEdit"
        @update:model-value="verdicts.change({ text: $event ?? '' })"
      />
    </div>
    <p v-if="known?.proposal" class="soft small">
      Proposed: {{ known.proposal }}
      <TextAction v-if="canEdit" @click="verdicts.change({ text: known.proposal.slice(0, 400) })"
        >Use these words</TextAction
      >
    </p>
    <fieldset v-if="evidence?.reference && judged.length">
      <legend>Against {{ evidence.reference }}</legend>
      <div class="marks">
        <span v-for="c in judged" :key="c.id" class="row middle">
          <LetterBox :letter="c.letter" />
          <v-btn-toggle
            role="group"
            density="compact"
            :mandatory="false"
            :disabled="!canEdit"
            :aria-label="`${c.letter} against ${evidence.reference}`"
            :model-value="line.marks[c.letter]"
            @update:model-value="mark(c.letter, $event)"
          >
            <v-btn
              v-for="j in JUDGED"
              :key="j.value"
              :value="j.value"
              :aria-pressed="line.marks[c.letter] === j.value"
              >{{ j.title }}</v-btn
            >
          </v-btn-toggle>
        </span>
      </div>
    </fieldset>
    <EvidenceList
      :known="known?.evidence ?? []"
      :things="evidence?.things ?? []"
      :chosen="line.evidence"
      @toggle="verdicts.change({ evidence: linked(line.evidence, $event) })"
    />
    <p v-if="canEdit">
      <TextAction aria-label="Remove this verdict" @click="verdicts.remove">Remove</TextAction>
    </p>
  </section>
</template>

<style scoped>
.editor {
  border: 1px solid var(--rule);
}
.for {
  flex: 0 1 210px;
}
.use {
  flex-basis: 330px;
}
.text {
  flex: 1 1 320px;
}
.marks {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(330px, 1fr));
  gap: 6px 16px;
}
</style>
