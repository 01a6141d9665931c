<script setup lang="ts">
// What is concluded for each use and kind of scene, beside what readings and calls propose.
import { computed } from "vue";

import TheirText from "@/shared/ui/TheirText.vue";
import { useEvidence } from "@/studies/judge/queries";
import { useStudyContext } from "@/studies/shared/useStudyContext";

import { evidenceFor, linesAt, markWords, scenesOf, usesOf } from "./matrix";
import { useVerdictLines } from "./useVerdictLines";
import VerdictEditor from "./VerdictEditor.vue";

const { study, canEdit } = useStudyContext();
const { data: evidence } = useEvidence(() => study.value.id);
const verdicts = useVerdictLines();
const { lines, changed, open, theirs, busy, read } = verdicts;
const cells = computed(() => evidence.value?.cells ?? []);
const columns = computed(() => [
  { scene: "", title: "All scenes" },
  ...scenesOf(lines.value, evidence.value?.scenes ?? []).map((scene) => ({ scene, title: scene })),
]);
const proposals = computed(() =>
  columns.value.map(({ scene }) => evidenceFor(cells.value, "", scene)?.proposal ?? ""),
);
const uses = computed(() => usesOf(lines.value, cells.value));
/** What a saved verdict is asked; one that is being written is not yet. */
const asked = (at: number): string[] => (changed.value ? [] : (evidence.value?.asked[at] ?? []));
/** A proposal of a use's own, where something was judged in it. */
const own = (use: string, scene: string): string => {
  const found = evidenceFor(cells.value, use, scene);
  return found?.use ? found.proposal : "";
};
</script>

<template>
  <section class="pt-5" aria-label="Verdicts">
    <div class="block-head">
      <h2>Verdict by use</h2>
      <span class="soft"
        >What is best depends on what a picture is for, and on what it shows: by day, at
        night.</span
      >
      <TextAction v-if="canEdit && lines.length" :disabled="!read" @click="verdicts.add()"
        >Add verdict</TextAction
      >
    </div>
    <p v-if="read && !lines.length" class="soft pb-2">
      No verdicts yet. They stand at the top of the report.
      <TextAction v-if="canEdit" @click="verdicts.add()">Add verdict</TextAction>
    </p>
    <div
      class="overflow-x-auto"
      tabindex="0"
      role="region"
      aria-label="Verdicts by use and kind of scene"
    >
      <v-table v-if="proposals.some(Boolean) || uses.length" class="matrix">
        <thead>
          <tr>
            <th scope="col">Use</th>
            <th v-for="c in columns" :key="c.scene" scope="col" class="scene">{{ c.title }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-if="proposals.some(Boolean)" class="soft">
            <th scope="row">Proposed, from readings and calls</th>
            <td v-for="(words, i) in proposals" :key="i" class="small">
              {{ words || "nothing known" }}
            </td>
          </tr>
          <tr v-for="use in uses" :key="use">
            <th scope="row">{{ use }}</th>
            <td v-for="c in columns" :key="c.scene">
              <div v-for="at in linesAt(lines, use, c.scene)" :key="at" class="written">
                <p :class="{ chosen: open === at }">{{ lines[at]?.text || "not written yet" }}</p>
                <p v-if="markWords(lines[at]?.marks ?? {})" class="small soft">
                  Against {{ evidence?.reference }}: {{ markWords(lines[at]?.marks ?? {}) }}
                </p>
                <p v-for="words in asked(at)" :key="words" class="small rowan" role="note">
                  {{ words }} Keep it?
                </p>
                <TextAction
                  :aria-label="`${canEdit ? 'Edit' : 'Open'} the verdict for ${use}${c.scene ? `, ${c.scene}` : ''}`"
                  @click="open = open === at ? undefined : at"
                  >{{ canEdit ? "Edit" : "What it rests on" }}</TextAction
                >
              </div>
              <template v-if="!linesAt(lines, use, c.scene).length">
                <p v-if="own(use, c.scene)" class="small soft">{{ own(use, c.scene) }}</p>
                <TextAction
                  v-if="canEdit"
                  class="add"
                  :aria-label="`Add the verdict for ${use}, ${c.title}`"
                  @click="verdicts.add(use, c.scene)"
                  >Add</TextAction
                >
              </template>
            </td>
          </tr>
        </tbody>
      </v-table>
    </div>
    <v-form @submit.prevent="verdicts.save">
      <VerdictEditor
        v-if="verdicts.shown.value"
        :verdicts="verdicts"
        :line="verdicts.shown.value"
        :evidence="evidence"
        :scenes="columns"
      />
      <TheirText
        v-if="theirs"
        :lines="
          theirs.map((t) => ({ label: [t.use, t.scene].filter(Boolean).join(', '), text: t.text }))
        "
        @take="verdicts.takeTheirs"
        @keep="verdicts.save"
      />
      <div v-if="canEdit && (lines.length || changed)" class="row middle pt-3">
        <v-btn variant="flat" type="submit" :loading="busy" :disabled="!changed"
          >Save verdicts</v-btn
        >
      </div>
    </v-form>
  </section>
</template>

<style scoped>
.matrix td,
.matrix th[scope="row"] {
  vertical-align: top;
  padding-top: 8px;
  padding-bottom: 8px;
}
.matrix th[scope="row"] {
  width: 130px;
}
.matrix td {
  min-width: 190px;
}
.scene::first-letter {
  text-transform: uppercase;
}
.written + .written {
  border-top: 1px solid var(--hair);
  padding-top: 6px;
}
.chosen {
  box-shadow: inset 3px 0 0 rgb(var(--v-theme-primary));
  padding-left: 8px;
}
.add {
  opacity: 0.75;
}
</style>
