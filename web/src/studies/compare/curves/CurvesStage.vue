<script setup lang="ts">
// The curves behind one patch's readings, contender by contender.
import { computed } from "vue";

import type { MeasuredCurve } from "@/api/types";
import { useCurves } from "@/studies/compare/queries";
import CurveChart from "@/charts/CurveChart.vue";
import { useAddress } from "@/shared/lib/useAddress";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { colourOf } from "@/shared/lib/letters";
import BasisSelect from "@/studies/compare/BasisSelect.vue";
import CompareTabs from "@/studies/compare/CompareTabs.vue";
import FairLine from "@/studies/shared/FairLine.vue";
import LetterBox from "@/shared/ui/LetterBox.vue";
import QuietSelect from "@/shared/ui/QuietSelect.vue";

const TITLES = {
  mtf: "MTF",
  profile: "Edge profile",
  spectrum: "Noise spectrum",
  texture: "Texture transfer",
} as const;
const SAYS = {
  mtf: "How much contrast an edge keeps at each spatial frequency; above 1 it was sharpened.",
  profile: "Light across the edge; what goes beyond 0 and 1 is a halo.",
  spectrum: "Brightness noise by spatial frequency: fine noise lies right, blotches left.",
  texture: "Share of the truth's texture that is there, in place; the rest was lost.",
} as const;
const HAS_CURVES = ["edge", "flat", "shadow", "texture", "face", "print"];

const { study, columns } = useStudyContext();
const { inAddress } = useAddress();
const basis = inAddress("readings");
const choices = computed(() => study.value.patches.filter((p) => HAS_CURVES.includes(p.role)));
const patch = inAddress("patch", () =>
  String(choices.value.find((p) => p.role === "edge")?.id ?? choices.value[0]?.id ?? ""),
);
const hidden = inAddress("without");
const { data, error, isPending } = useCurves(
  () => study.value.id,
  () => (patch.value ? Number(patch.value) : undefined),
  () => (study.value.matched ? basis.value : ""),
);
const without = computed(() => new Set(hidden.value.split("").filter(Boolean)));
const charts = computed(() =>
  (Object.keys(TITLES) as (keyof typeof TITLES)[])
    .map((kind) => ({ kind, all: (data.value ?? []).filter((c) => c.curve === kind) }))
    .filter(({ all }) => all.length)
    .map(({ kind, all }) => ({
      kind,
      units: all[0] as MeasuredCurve,
      curves: all
        .filter((c) => !without.value.has(c.letter))
        .map((c) => ({
          name: c.letter,
          x: c.x,
          y: c.y,
          error: c.error,
          colour: colourOf(c.letter),
        })),
    })),
);
const patches = computed(() =>
  choices.value.map((p) => ({
    value: String(p.id),
    title: `${p.name} (${p.role}, ${frameOf(p.frame)})`,
  })),
);
const frameOf = (id: number) => study.value.frames.find((f) => f.id === id)?.name ?? "";

function toggle(letter: string): void {
  const now = new Set(without.value);
  if (!now.delete(letter)) now.add(letter);
  hidden.value = [...now].sort().join("");
}
</script>

<template>
  <div class="toolbar">
    <CompareTabs />
    <span class="end row middle">
      <QuietSelect v-if="choices.length" v-model="patch" label="Patch" :items="patches" />
      <BasisSelect v-model="basis" />
      <span
        v-if="data?.length"
        class="choice-with-label"
        role="group"
        aria-label="Contenders drawn"
      >
        <span class="soft">Drawn</span>
        <IconAction
          v-for="c in columns"
          :key="c.id"
          class="toggle"
          :aria-label="`${c.letter} drawn`"
          :aria-pressed="!without.has(c.letter)"
          @click="toggle(c.letter)"
        >
          <LetterBox :letter="c.letter" />
        </IconAction>
      </span>
    </span>
  </div>
  <FairLine />
  <p v-if="error" class="rowan">{{ error.message }}</p>
  <v-empty-state
    v-if="!choices.length"
    title="No curves yet"
    text="Curves come from patches over an edge, a texture or an even surface."
  >
    <template #actions>
      <v-btn :to="`/studies/${study.id}/patches`">Draw patches</v-btn>
    </template>
  </v-empty-state>
  <v-skeleton-loader v-else-if="isPending" type="image" />
  <v-empty-state
    v-else-if="!charts.length"
    title="This patch has no curve"
    text="It is still being measured, or none of its measures could be taken; Numbers gives the reason."
  >
    <template #actions>
      <v-btn :to="`/studies/${study.id}/numbers`">Numbers</v-btn>
    </template>
  </v-empty-state>
  <div v-else style="--at-least: 520px" class="charts in-grid pt-4 tiles">
    <section v-for="chart in charts" :key="chart.kind">
      <CurveChart
        :title="TITLES[chart.kind]"
        :curves="chart.curves"
        :x-unit="chart.units.x_unit"
        :y-unit="chart.units.y_unit"
        :height="300"
        :logarithmic="chart.kind === 'spectrum'"
        :x-range="chart.kind === 'profile' ? [-8, 8] : undefined"
      />
      <p class="soft">{{ SAYS[chart.kind] }}</p>
    </section>
  </div>
</template>

<style scoped>
.charts {
  gap: 28px 36px;
}
.toggle[aria-pressed="false"] {
  opacity: 0.3;
}
</style>
