<script setup lang="ts">
// What, where, how and which version: all that stands behind one number.
import { computed } from "vue";

import type { Measure, Reading } from "@/api/types";
import CurveChart from "@/charts/CurveChart.vue";
import { fixed, named } from "@/shared/lib/words";

import { useReading } from "./queries";
import { useStudyContext } from "./useStudyContext";

const props = defineProps<{ reading: Reading; measures: readonly Measure[] }>();
const emit = defineEmits<{ close: [] }>();
const { study } = useStudyContext();
const { data, error } = useReading(() => props.reading.id);
const measure = computed(() => props.measures.find((m) => m.id === props.reading.measure));
const digits = computed(() => (measure.value?.digits ?? 2) + 1);
const contender = computed(() =>
  study.value.contenders.find((c) => c.id === props.reading.contender),
);
const patch = computed(() => study.value.patches.find((p) => p.id === props.reading.patch));
const frame = computed(() => study.value.frames.find((f) => f.id === props.reading.frame));
const where = computed(() => {
  const p = patch.value;
  if (!p) return `${frame.value?.name}, whole frame`;
  return `${frame.value?.name}, ${p.name}: ${p.w} × ${p.h} px at ${p.x}, ${p.y}`;
});
const numbers = computed(() =>
  Object.entries((data.value?.details ?? {}) as Record<string, unknown>).filter(
    (entry): entry is [string, number] => typeof entry[1] === "number",
  ),
);
/** The curve behind the number, as the details of its measure hold it. */
const CURVES = [
  ["mtf", "cycles_per_frame_px", "transfer", "MTF", "cycles/px", "contrast kept"],
  [
    "profile",
    "frame_px",
    "light",
    "Edge profile",
    "px across the edge",
    "light, 0 and 1 on either side",
  ],
  ["spectrum", "cycles_per_frame_px", "power", "Noise spectrum", "cycles/px", "levels squared"],
  [
    "transfer",
    "cycles_per_frame_px",
    "kept",
    "Texture transfer",
    "cycles/px",
    "share of texture kept",
  ],
] as const;
type Told = Record<string, Record<string, number[]> | undefined>;
const curves = computed(() =>
  CURVES.flatMap(([place, x, y, title, xUnit, yUnit]) => {
    const told = ((data.value?.details ?? {}) as Told)[place];
    const [across, up] = [told?.[x], told?.[y]];
    return told && across && up
      ? [{ title, xUnit, yUnit, curves: [{ name: title, x: across, y: up, error: told.error }] }]
      : [];
  }),
);
</script>

<template>
  <v-dialog :model-value="true" max-width="560" @update:model-value="emit('close')">
    <v-card>
      <h2>{{ measure?.name }}</h2>
      <p v-if="error" class="rowan">{{ error.message }}</p>
      <dl class="in-grid gr-2 gc-4 my-4">
        <dt class="soft">Value</dt>
        <dd class="mono">
          {{ fixed(reading.value ?? 0, digits) }} {{ reading.unit }}, 95 % interval
          {{ fixed(reading.low ?? 0, digits) }} to
          {{ fixed(reading.high ?? 0, digits) }}
        </dd>
        <dt class="soft">Of</dt>
        <dd>{{ contender ? `${contender.letter}, ${named(contender)}` : "" }}</dd>
        <dt class="soft">Where</dt>
        <dd>{{ where }}</dd>
        <dt class="soft">On</dt>
        <dd>{{ reading.grid }}</dd>
        <dt class="soft">How</dt>
        <dd>{{ measure?.defined_by }}, version {{ reading.version }}</dd>
        <template v-for="[name, value] in numbers" :key="name">
          <dt class="soft">{{ name.replaceAll("_", " ") }}</dt>
          <dd class="mono">{{ Number(value.toPrecision(5)) }}</dd>
        </template>
      </dl>
      <CurveChart v-for="chart in curves" :key="chart.title" v-bind="chart" :height="190" />
      <div class="dialog-acts"><v-btn autofocus @click="emit('close')">Close</v-btn></div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
dl {
  grid-template-columns: auto 1fr;
}
</style>
