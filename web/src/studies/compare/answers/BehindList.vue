<script setup lang="ts">
// The readings that something said was made from; each opens with its curve and its source.
import { computed, ref } from "vue";

import type { Measure, Reading } from "@/api/types";
import ReadingDialog from "@/studies/shared/ReadingDialog.vue";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { fixed, half } from "@/shared/lib/words";

const props = defineProps<{
  ids: readonly number[];
  readings: readonly Reading[];
  measures: readonly Measure[];
  /** Several contenders stand behind it: each reading says whose it is. */
  lettered?: boolean;
}>();
const { study } = useStudyContext();
const shown = ref<Reading>();
const wanted = computed(() => new Set(props.ids));
const behind = computed(() => props.readings.filter((r) => wanted.value.has(r.id)));
const names = computed(() => ({
  patches: new Map(study.value.patches.map((p) => [p.id, p.name])),
  frames: new Map(study.value.frames.map((f) => [f.id, f.name])),
  letters: new Map(study.value.contenders.map((c) => [c.id, c.letter])),
}));
const digits = computed(() => new Map(props.measures.map((m) => [m.id, m.digits])));
const place = (r: Reading): string =>
  [
    props.lettered ? names.value.letters.get(r.contender) : "",
    r.patch ? names.value.patches.get(r.patch) : "whole frame",
    names.value.frames.get(r.frame),
  ]
    .filter(Boolean)
    .join(", ");
</script>

<template>
  <span class="d-block margin-rule my-1">
    <span
      v-for="r in behind"
      :key="r.id"
      class="reading small d-flex justify-space-between ga-4 py-1 pl-2"
    >
      <TextAction @click="shown = r">{{ place(r) }}</TextAction>
      <span class="mono">
        {{ fixed(r.value ?? 0, digits.get(r.measure) ?? 2) }}
        <span class="soft">±{{ fixed(half(r), digits.get(r.measure) ?? 2) }} {{ r.unit }}</span>
      </span>
    </span>
    <ReadingDialog
      v-if="shown"
      :key="shown.id"
      :reading="shown"
      :measures="measures"
      @close="shown = undefined"
    />
  </span>
</template>
