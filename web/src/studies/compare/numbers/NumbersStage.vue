<script setup lang="ts">
// All numbers, by patch or taken together; filtered by what they tell of, one contender pinned, columns ordered by a measure.
import { computed, ref } from "vue";

import { type Reading, useReadings, useSummary } from "@/api/queries";
import { useAddress } from "@/shared/lib/useAddress";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { fromReadings, fromSummary } from "@/shared/lib/numbers";
import { capital, titled } from "@/shared/lib/words";
import BasisSelect from "@/studies/compare/BasisSelect.vue";
import CompareTabs from "@/studies/compare/CompareTabs.vue";
import FairLine from "@/studies/shared/FairLine.vue";
import NumbersTable from "./NumbersTable.vue";
import ReadingDialog from "@/studies/shared/ReadingDialog.vue";

const FAMILIES = ["error", "noise", "detail", "artefacts", "change"] as const;
const TOGETHER = [
  ["", "patch by patch"],
  ["role", "by role"],
  ["kind", "by kind of scene"],
  ["frame", "by frame"],
] as const;

const { study, columns } = useStudyContext();
const { inAddress } = useAddress();
const frame = inAddress("frame");
const chosen = inAddress("readings");
const family = inAddress("measures");
const by = inAddress("together");
const pinned = inAddress("pin");
const sort = inAddress("sort");
const basis = computed(() => (study.value.matched ? chosen.value : ""));
const { data, error } = useReadings(() => study.value.id);
const { data: summary, error: summaryError } = useSummary(() => study.value.id, by, basis);
const opened = ref<Reading>();
const measures = computed(() =>
  (data.value?.measures ?? []).filter((m) => !family.value || m.family === family.value),
);
const missing = computed(() => (data.value ? data.value.wanted - data.value.there : 0));

const places = computed(() =>
  study.value.frames
    .filter((f) => !frame.value || f.id === Number(frame.value))
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
    ]),
);
const every = computed(() => {
  if (by.value) {
    const groups = [...new Set((summary.value ?? []).map((s) => s.group))];
    return groups.map((group) => ({
      key: group,
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
/** Where only some measures are asked for, places that have none of them are left out. */
const tables = computed(() => every.value.filter((t) => !family.value || t.rows.length));
</script>

<template>
  <div class="toolbar">
    <CompareTabs />
    <label>
      Shown
      <select v-model="by" class="quiet-select">
        <option v-for="[value, words] in TOGETHER" :key="value" :value="value">{{ words }}</option>
      </select>
    </label>
    <label v-if="study.frames.length > 1 && !by">
      Frames
      <select v-model="frame" class="quiet-select">
        <option value="">all {{ study.frames.length }}</option>
        <option v-for="f in study.frames" :key="f.id" :value="String(f.id)">{{ f.name }}</option>
      </select>
    </label>
    <label>
      Measures
      <select v-model="family" class="quiet-select">
        <option value="">all</option>
        <option v-for="f in FAMILIES" :key="f" :value="f">{{ f }}</option>
      </select>
    </label>
    <label>
      Pinned
      <select v-model="pinned" class="quiet-select">
        <option value="">none</option>
        <option v-for="c in columns" :key="c.id" :value="c.letter">
          {{ c.letter }} {{ titled(c) }}
        </option>
      </select>
    </label>
    <BasisSelect v-model="chosen" />
    <span v-if="missing > 0" class="soft">{{ missing }} readings still being taken</span>
  </div>
  <FairLine />
  <p class="soft note">
    <template v-if="by"
      >Medians; below each the 95 % interval by order statistics, or the range where there are fewer
      than six patches.</template
    >
    <template v-else
      >± is the wider half of the 95 % interval. Ranks: {{ data?.rule_of_ranks }} Unprocessed and
      truth are not ranked.</template
    >
    A measure's name orders the columns by it.
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
      :rows="table.rows"
      :pinned="pinned"
      @open="(reading) => (opened = reading)"
    />
    <p v-if="!study.frames.length" class="soft">No frame yet, so there is nothing to measure.</p>
    <p v-else-if="by === 'kind' && summary && !summary.length" class="soft note">
      No frame of this study stands under a scene that says of what kind it is.
      <router-link to="/frames">Say so on the Frames page</router-link>.
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
.note {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 8px;
  padding: 10px 0 0;
}
.end {
  margin-left: auto;
}
</style>
