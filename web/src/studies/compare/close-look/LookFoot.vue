<script setup lang="ts">
// A pane's read-out: the place under the pointer, and how the part in view differs.
import { computed } from "vue";

import { DE_TOP, type Kind, type Numbers, SCALES } from "@/viewer/differences";
import { type Marked, shareWords } from "@/viewer/marks";
import { RAMP_CSS } from "@/viewer/ramp";
import { fixed, lighter, type Sample, told, type Unit } from "./readout";

const props = defineProps<{
  sample: Sample | undefined;
  reference: Sample | undefined;
  against: string;
  unit: Unit;
  /** Of what is seen in a use, whose pixels are not those of the read-out. */
  ofUse: string;
  /** Of what is in view, and which marks stand on it. */
  marked: Marked | undefined;
  marks: { clipped: boolean; beyond: boolean };
  difference: { kind: Kind; gain: number; numbers: Numbers | undefined; share: number } | undefined;
}>();
const shares = computed(() => {
  if (!props.marked) return "";
  const { top, bottom, beyond } = props.marked;
  const parts = [
    ...(props.marks.clipped ? [`top ${shareWords(top)}`, `bottom ${shareWords(bottom)}`] : []),
    ...(props.marks.beyond ? [`beyond sRGB ${shareWords(beyond)}`] : []),
  ];
  return `In view: ${parts.join(", ")}`;
});
const signed = (v: number): string => (v < 0 ? fixed(v, 2) : `+${fixed(v, 2)}`);
const part = computed(() => {
  const d = props.difference;
  if (!d) return "";
  if (!d.numbers) return "being worked out";
  const { mean, p99, bias } = d.numbers;
  const of = d.share > 1 ? `, of means of ${d.share} × ${d.share} px` : "";
  const sign = d.kind === "brightness" ? `, ${signed(bias)} on the whole` : "";
  const unit = SCALES[d.kind].unit;
  return `mean ${fixed(mean, 2)} ${unit}, 99 % within ${fixed(p99, 1)}${sign}${of}`;
});
</script>

<template>
  <footer class="d-flex ga-4 px-3 small mono align-center overflow-hidden text-no-wrap">
    <template v-if="difference">
      <span class="part">{{ part }}</span>
      <span v-if="difference.kind === 'de00'" class="end d-flex ga-1 align-center">
        0 <i class="scale" :style="{ background: RAMP_CSS }" />
        {{ DE_TOP / difference.gain }}
      </span>
    </template>
    <span v-else-if="ofUse" class="value">{{ ofUse }}</span>
    <template v-else-if="shares">
      <span class="shares">{{ shares }}</span>
      <span v-if="sample" class="value end">{{ told(sample, unit) }}</span>
    </template>
    <template v-else-if="sample">
      <span class="value">{{ told(sample, unit) }}</span>
      <span v-if="unit !== 'CIELAB'" class="soft">L* {{ fixed(sample.lab[0], 1) }}</span>
      <span v-if="sample.sd !== undefined" class="soft">σ {{ fixed(sample.sd, 1) }}</span>
      <span v-if="reference" class="soft"
        >L* {{ lighter(sample, reference) }} to {{ against }}</span
      >
    </template>
    <span v-else class="soft">–</span>
  </footer>
</template>

<style scoped>
.scale {
  display: inline-block;
  width: 90px;
  height: 10px;
}
</style>
