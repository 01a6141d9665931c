<script setup lang="ts">
// All numbers, by patch or taken together; filtered by what they tell of, one contender pinned,
// columns ordered by a measure.
import { computed, ref } from "vue";

import type { Reading } from "@/api/types";
import { useAnswers, useReadings, useSummary } from "@/studies/compare/queries";
import { useAddress } from "@/shared/lib/useAddress";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { fromReadings, fromSummary } from "@/shared/lib/numbers";
import { capital, titled } from "@/shared/lib/words";
import QuietSelect from "@/shared/ui/QuietSelect.vue";
import BasisSelect from "@/studies/compare/BasisSelect.vue";
import CompareTabs from "@/studies/compare/CompareTabs.vue";
import FairLine from "@/studies/shared/FairLine.vue";
import { useTables } from "@/studies/shared/figures/figures";
import { foundIn, matches } from "./few";
import NumbersTable from "./NumbersTable.vue";
import ReadingDialog from "@/studies/shared/ReadingDialog.vue";

const FAMILIES = ["", "error", "noise", "detail", "artefacts", "change"].map((value) => ({
  value,
  title: value || "all",
}));
const TOGETHER = [
  { value: "", title: "each patch" },
  { value: "role", title: "medians by patch type" },
  { value: "kind", title: "medians by kind of scene" },
  { value: "frame", title: "medians by frame" },
];

const { study, columns, canEdit } = useStudyContext();
const { inAddress } = useAddress();
const chosen = inAddress("readings");
const family = inAddress("measures");
const by = inAddress("together");
const pinned = inAddress("pin");
const sort = inAddress("sort");
const apart = inAddress("as");
const place = inAddress("place");
const looked = ref("");
const AS = [
  { value: "", title: "values" },
  { value: "differences", title: "differences from it" },
];
const pins = computed(() => [
  { value: "", title: "none" },
  ...columns.value.map((c) => ({ value: c.letter, title: `${c.letter} ${titled(c)}` })),
]);
const basis = computed(() => (study.value.matched ? chosen.value : ""));
const { data, error } = useReadings(() => study.value.id);
const { data: summary, error: summaryError } = useSummary(() => study.value.id, by, basis);
const opened = ref<Reading>();
const measures = computed(() =>
  (data.value?.measures ?? []).filter(
    (m) => (!family.value || m.family === family.value) && matches(m, looked.value),
  ),
);
/** Asked for by family or words: shown whole, and only where there is any of it. */
const narrowed = computed(() => !!family.value || !!looked.value.trim());
const { data: answers } = useAnswers(() => study.value.id, basis);
const found = computed(() => foundIn(answers.value?.findings ?? []));
const missing = computed(() => (data.value ? data.value.wanted - data.value.there : 0));

const places = computed(() =>
  study.value.frames
    .flatMap((f) => [
      ...study.value.patches
        .filter((p) => p.frame === f.id)
        .map((p) => ({
          key: `p${p.id}`,
          frame: f,
          patch: p.id as number | null,
          title: p.name,
          kind: p.role,
        })),
      { key: `f${f.id}`, frame: f, patch: null, title: "Whole frame", kind: "" },
    ])
    .filter((p) => !place.value || [p.key, `all${p.frame.id}`].includes(place.value)),
);
const choices = computed(() => [
  { value: "", title: "all" },
  ...study.value.patches.map((p) => ({ value: `p${p.id}`, title: p.name })),
  ...study.value.frames.flatMap((f) => [
    { value: `all${f.id}`, title: `${f.name}, all of it` },
    { value: `f${f.id}`, title: `${f.name}, whole frame` },
  ]),
]);
const every = computed(() => {
  if (by.value) {
    const groups = [...new Set((summary.value ?? []).map((s) => s.group))];
    return groups.map((group) => ({
      key: group,
      role: by.value === "role" ? group : "",
      title: capital(group),
      subtitle: "medians over its patches",
      rows: fromSummary(
        measures.value,
        (summary.value ?? []).filter((s) => s.group === group),
        columns.value,
      ),
    }));
  }
  return places.value.map((place) => ({
    key: place.key,
    role: place.kind,
    title: place.title,
    subtitle: [place.kind, place.frame.name].filter(Boolean).join(", "),
    rows: fromReadings(
      measures.value,
      (data.value?.readings ?? []).filter(
        (r) =>
          r.frame === place.frame.id &&
          r.patch === place.patch &&
          r.basis === (basis.value || "as made"),
      ),
    ),
  }));
});
const reported = useTables(() => study.value.id);

function intoReport(
  key: string,
  kind: "table" | "chart",
  measures: string[],
  letters: string[],
): void {
  const at = places.value.find((p) => p.key === key);
  if (!at) return;
  const here = [{ frame: at.frame.id, patch: at.patch }];
  void reported.take(kind, {
    measures,
    letters,
    places: here,
    ...(basis.value ? { matched: true } : {}),
  });
}

/** Where only some measures are asked for, places that have none of them are left out. */
const tables = computed(() => every.value.filter((t) => !narrowed.value || t.rows.length));
</script>

<template>
  <div class="toolbar">
    <CompareTabs />
    <span class="end row middle">
      <QuietSelect v-model="by" label="Show" :items="TOGETHER" />
      <QuietSelect v-if="!by" v-model="place" label="Place" :items="choices" />
      <QuietSelect v-model="family" label="Measures" :items="FAMILIES" />
      <v-text-field
        v-model="looked"
        class="quiet looked"
        aria-label="Search measures"
        placeholder="Search"
        hide-details
      />
      <QuietSelect v-model="pinned" label="Pinned" :items="pins" />
      <QuietSelect v-if="pinned" v-model="apart" label="As" :items="AS" />
      <BasisSelect v-model="chosen" />
      <span v-if="missing > 0" class="soft">{{ missing }} readings to come</span>
    </span>
  </div>
  <FairLine />
  <p class="soft row pt-2">
    <template v-if="by"
      >Medians; below each the 95 % interval by order statistics, or the range where there are fewer
      than six patches.</template
    >
    <template v-else
      >± is the wider half of the 95 % interval. Ranks: {{ data?.rule_of_ranks }} Unprocessed and
      truth are not ranked.</template
    >
    Click a measure to sort the columns by it.
    <template v-if="apart === 'differences'"
      >A difference’s interval follows from both readings’ as if they were independent.</template
    >
    <a class="end" :href="`/api/studies/${study.id}/readings.csv`">All readings as CSV</a>
  </p>
  <p v-if="error || summaryError" class="rowan">{{ (error ?? summaryError)?.message }}</p>
  <template v-if="data">
    <NumbersTable
      v-for="table in tables"
      :key="table.key"
      v-model:sort="sort"
      :title="table.title"
      :subtitle="table.subtitle"
      :columns="columns"
      :role="table.role"
      :rows="table.rows"
      :apart="apart === 'differences'"
      :found="found"
      :whole="narrowed"
      :pinned="pinned"
      :takes="canEdit && !by && apart !== 'differences'"
      @take="(...taken) => intoReport(table.key, ...taken)"
      @open="(reading) => (opened = reading)"
    />
    <v-empty-state
      v-if="!study.frames.length"
      title="Nothing to measure yet"
      text="Numbers come once the study has frames, outputs and patches."
    >
      <template #actions>
        <v-btn :to="`/studies/${study.id}/set-up`">Set up the study</v-btn>
      </template>
    </v-empty-state>
    <p v-else-if="by === 'kind' && summary && !summary.length" class="soft pt-2">
      No frame of this study belongs to a scene whose kind is stated.
      <router-link to="/frames">Edit scenes on the Frames page</router-link>.
    </p>
  </template>
  <ReadingDialog
    v-if="opened"
    :key="opened.id"
    :reading="opened"
    :measures="data?.measures ?? []"
    @close="opened = undefined"
  />
</template>

<style scoped>
.looked {
  width: 120px;
}
</style>
