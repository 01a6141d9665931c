<script setup lang="ts">
import { computed } from "vue";

import type { Contender, Measure, Patch, Reading } from "@/api/types";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import type { Light } from "@/viewer/light";
import CropCell from "./CropCell.vue";

const props = defineProps<{
  patch: Patch;
  zoom: number;
  shown: string;
  basis: "as made" | "matched";
  light: Light;
  readings:
    { readonly measures: readonly Measure[]; readonly readings: readonly Reading[] } | undefined;
}>();
const { study, columns, outputOf } = useStudyContext();
const frame = computed(() => study.value.frames.find((f) => f.id === props.patch.frame));
// The truth is never matched to anything.
const truths = computed(
  () => new Set(columns.value.filter((c) => c.kind === "truth").map((c) => c.id)),
);
const mine = computed(() =>
  (props.readings?.readings ?? []).filter(
    (r) => r.patch === props.patch.id && (r.basis === props.basis || truths.value.has(r.contender)),
  ),
);
/**
 * The chosen measure; or the role's own, or, where that was not to be had, the first with a number.
 */
const measure = computed(() => {
  const own = props.readings?.measures.find((m) => m.own_of.includes(props.patch.role))?.id ?? "";
  const wanted = props.shown || own;
  const there = (id: string): boolean =>
    mine.value.some((r) => r.measure === id && r.value !== null);
  const instead = props.readings?.measures.find((m) => m.stands_for === wanted)?.id ?? "";
  const first = there(instead) ? instead : mine.value.find((r) => r.value !== null)?.measure;
  const id = props.shown || there(wanted) ? wanted : (first ?? wanted);
  return props.readings?.measures.find((m) => m.id === id);
});
const values = computed(() => mine.value.filter((r) => r.measure === measure.value?.id));
const readingOf = (c: Contender): Reading | undefined =>
  values.value.find((r) => r.contender === c.id);
</script>

<template>
  <div class="what position-sticky hair-below">
    <h3>{{ patch.name }}</h3>
    <p class="soft small">{{ patch.role }}, {{ frame?.name }}</p>
    <p v-if="measure" class="soft shown mt-1 small">
      {{ measure.name }}<template v-if="measure.unit">, {{ measure.unit }}</template>
    </p>
  </div>
  <CropCell
    v-for="c in columns"
    :key="c.id"
    :patch="patch"
    :contender="c"
    :output="outputOf(c, patch.frame)"
    :reading="readingOf(c)"
    :measure="measure"
    :zoom="zoom"
    :light="light"
  />
</template>

<style scoped>
.what {
  left: 0;
  z-index: 1;
  background: var(--paper);
  padding: 8px 8px 8px 0;
}
</style>
