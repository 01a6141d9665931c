<script setup lang="ts">
import { computed, ref } from "vue";
import { useRoute, useRouter } from "vue-router";

import { type Reading, useReadings } from "../api/queries";
import { useStudyContext } from "../composables/useStudyContext";
import CompareTabs from "../parts/CompareTabs.vue";
import FairLine from "../parts/FairLine.vue";
import NumbersTable from "../parts/NumbersTable.vue";
import ReadingDialog from "../parts/ReadingDialog.vue";

const { study, columns } = useStudyContext();
const { data, error } = useReadings(() => study.value.id);
const route = useRoute();
const router = useRouter();
const frame = computed({
  get: () => String(route.query.frame ?? ""),
  set: (value: string) => void router.replace({ query: { ...route.query, frame: value || undefined } }),
});
const basis = computed({
  get: () => (study.value.matched ? String(route.query.readings ?? "") : ""),
  set: (value: string) => void router.replace({ query: { ...route.query, readings: value || undefined } }),
});
const shown = ref<Reading>();
const places = computed(() =>
  study.value.frames
    .filter((f) => !frame.value || f.id === Number(frame.value))
    .flatMap((f) => [
      ...study.value.patches
        .filter((p) => p.frame === f.id)
        .map((p) => ({ key: `p${p.id}`, frame: f, patch: p.id, title: p.name, kind: p.role })),
      { key: `f${f.id}`, frame: f, patch: null, title: "Whole frame", kind: "" },
    ]),
);
const readingsAt = (place: { frame: { id: number }; patch: number | null }): Reading[] =>
  (data.value?.readings ?? []).filter(
    (r) => r.frame === place.frame.id && r.patch === place.patch && r.basis === (basis.value || "as made"),
  );
const missing = computed(() => (data.value ? data.value.wanted - data.value.there : 0));
</script>

<template>
  <div class="toolbar">
    <CompareTabs />
    <label v-if="study.frames.length > 1">
      Frames
      <select v-model="frame" class="quiet-select">
        <option value="">all {{ study.frames.length }}</option>
        <option v-for="f in study.frames" :key="f.id" :value="String(f.id)">{{ f.name }}</option>
      </select>
    </label>
    <label v-if="study.matched">
      Readings
      <select v-model="basis" class="quiet-select">
        <option value="">as made</option>
        <option value="matched">{{ study.matched }}</option>
      </select>
    </label>
    <span v-if="missing > 0" class="soft">{{ missing }} readings still being taken</span>
    <a class="end" :href="`/api/studies/${study.id}/readings.csv`">All readings as CSV</a>
  </div>
  <FairLine />
  <p class="soft note">
    ± is the wider half of the 95 % interval. Ranks say tied where intervals overlap; the truth is not ranked.
  </p>
  <p v-if="error" class="rowan">{{ error.message }}</p>
  <template v-if="data">
    <NumbersTable
      v-for="place in places"
      :key="place.key"
      :title="place.title"
      :subtitle="[place.kind, place.frame.name].filter(Boolean).join(', ')"
      :columns="columns"
      :measures="data.measures"
      :readings="readingsAt(place)"
      @open="(reading) => (shown = reading)"
    />
    <p v-if="!places.length" class="soft">No frame yet, so there is nothing to measure.</p>
  </template>
  <ReadingDialog v-if="shown" :reading="shown" :measures="data?.measures ?? []" @close="shown = undefined" />
</template>

<style scoped>
.end {
  margin-left: auto;
}
.note {
  padding: 10px 0 0;
}
</style>
