<script setup lang="ts">
// Bodies over ISO: who is ahead by how many stops, in words, curves and pictures.
import { computed } from "vue";

import CurveChart from "@/charts/CurveChart.vue";
import { useAddress } from "@/shared/lib/useAddress";
import { day } from "@/shared/lib/formats";
import ChoiceBar from "@/shared/ui/ChoiceBar.vue";
import QuietSelect from "@/shared/ui/QuietSelect.vue";
import CompareTabs from "@/studies/compare/CompareTabs.vue";
import { among } from "@/studies/compare/lights";
import { useStudyContext } from "@/studies/shared/useStudyContext";

import { useSeries, useSeriesChanges } from "./queries";
import {
  aheadAt,
  BASES,
  type Basis,
  factCurves,
  leftOut,
  said,
  type Size,
  snrCurves,
  stopCurves,
} from "./series";
import SeriesBehind from "./SeriesBehind.vue";
import SeriesReasons from "./SeriesReasons.vue";
import SeriesSpeed from "./SeriesSpeed.vue";
import SeriesWall from "./SeriesWall.vue";

const { study, canEdit } = useStudyContext();
const { inAddress } = useAddress();
const { data, error, isPending } = useSeries(() => study.value.id);
const { busy, measure } = useSeriesChanges(() => study.value.id);
const countsAs = inAddress("counts");
const basis = computed<Basis>({
  get: () => (countsAs.value === "as-shot" ? "as shot" : "equally bright"),
  set: (value) => (countsAs.value = value === "as shot" ? "as-shot" : ""),
});
const noiseAt = inAddress("size");
const size = computed<Size>({
  get: () => among(["pixel", "common", "print"], noiseAt.value, "common"),
  set: (value) => (noiseAt.value = value),
});
const spotName = inAddress("spot", () => "0");
const found = computed(() => data.value?.found ?? undefined);
const spots = computed(() =>
  (found.value?.spots ?? []).map((s, i) => ({ value: String(i), title: s.name })),
);
const spot = computed(() =>
  Math.min(Number(spotName.value || 0), Math.max(0, spots.value.length - 1)),
);
const SIZES: readonly { value: Size; title: string }[] = [
  { value: "pixel", title: "Own pixels" },
  { value: "common", title: "Smaller one’s size" },
  { value: "print", title: "Print of 8 MP" },
];
const pairs = computed(() =>
  found.value ? aheadAt(found.value, spot.value, size.value, basis.value) : [],
);
/** The answer: at every spot, as it is chosen. */
const answers = computed(() => (found.value ? said(found.value, size.value, basis.value) : []));
const snr = computed(() =>
  found.value ? snrCurves(found.value, spot.value, size.value, basis.value) : [],
);
const stops = computed(() => (found.value ? stopCurves(found.value, pairs.value) : []));
const ahead = computed(() => {
  const [one] = pairs.value;
  const names = one && [one.one, one.other].map((i) => found.value?.bodies[i]?.name);
  return names && pairs.value.length === 1 ? `Advantage of ${names.join(" over ")}` : "Advantage";
});
const read = computed(() => factCurves(found.value?.bodies ?? [], (f) => f.read_noise));
const range = computed(() =>
  factCurves(found.value?.bodies ?? [], (f) =>
    size.value === "pixel" ? f.ranges.one : f.ranges.one_of_print,
  ),
);
const sayings = computed(() => found.value?.bodies.flatMap((b) => b.said) ?? []);
const missing = computed(() => (found.value ? leftOut(found.value) : []));
</script>

<template>
  <div class="toolbar">
    <CompareTabs />
    <span v-if="found" class="end row middle ga-2">
      <QuietSelect v-if="spots.length" v-model="spotName" label="Spot" :items="spots" />
      <ChoiceBar v-model="size" label="Noise at" :items="SIZES" hide-label />
      <ChoiceBar v-model="basis" label="ISO counts" :items="BASES" hide-label />
    </span>
  </div>
  <p v-if="error" class="rowan">{{ error.message }}</p>
  <v-skeleton-loader v-else-if="isPending" type="image" />
  <template v-else-if="data">
    <p v-if="data.state === 'failed'" class="rowan py-2" role="alert">
      {{ data.problem }}
      <template v-if="found">What stands below is of before.</template>
      <v-btn v-if="canEdit" class="ml-2" size="small" :loading="busy" @click="measure">Retry</v-btn>
    </p>
    <p v-else-if="data.state === 'waiting'" class="soft py-2" role="status">
      The bodies’ raw files are being read; what stands below is of before.
    </p>
    <p v-else-if="data.state === 'old'" class="soft py-2">
      Something changed since {{ data.taken ? day(data.taken) : "" }}: what stands below is of
      before.
      <v-btn v-if="canEdit" class="ml-2" size="small" :loading="busy" @click="measure"
        >Read again</v-btn
      >
    </p>
    <v-empty-state
      v-if="!found"
      title="No series compared yet"
      text="Drop each body’s raw files of one scene in Set up, every exposure twice, and choose the bodies."
    >
      <template #actions>
        <v-btn :to="`/studies/${study.id}/set-up`">Set up the series</v-btn>
      </template>
    </v-empty-state>
    <template v-else>
      <section class="answer py-3" aria-label="Answer">
        <p v-for="a in answers" :key="a.said">
          <strong>{{ a.spots }}.</strong> {{ a.said }}
        </p>
        <p v-if="!spots.length">
          No spot is drawn yet:
          <router-link :to="`/studies/${study.id}/patches`">draw a lit and a dark patch</router-link
          >, and the bodies are held against each other there.
        </p>
      </section>
      <div v-if="spots.length" style="--at-least: 460px" class="charts in-grid tiles">
        <CurveChart
          title="Signal to noise"
          :curves="snr"
          x-unit="ISO"
          y-unit="dB"
          :height="210"
          iso
        />
        <CurveChart :title="ahead" :curves="stops" x-unit="ISO" y-unit="stops" :height="210" iso />
      </div>
      <SeriesWall v-if="spots.length" :found="found" :spot="spot" :size="size" :basis="basis" />
      <div style="--at-least: 460px" class="charts in-grid tiles pt-4">
        <CurveChart
          title="Read noise"
          :curves="read"
          x-unit="ISO"
          y-unit="electrons"
          :height="210"
          iso
        />
        <CurveChart
          :title="size === 'pixel' ? 'Dynamic range of a pixel' : 'Dynamic range of a print'"
          :curves="range"
          x-unit="ISO"
          y-unit="EV"
          :height="210"
          iso
        />
      </div>
      <section class="block" aria-label="Said of the bodies">
        <h2>Brightness, size and sensors</h2>
        <ul class="pt-1 pl-5">
          <li v-for="words in sayings" :key="words" class="py-1">{{ words }}</li>
        </ul>
        <p class="soft py-1">
          Makers mostly state ISO as SOS or REI (ISO 12232:2019), which leave other headroom: equal
          numbers need not mean equal brightness.
        </p>
      </section>
      <SeriesSpeed
        v-if="spots.length"
        :study-id="study.id"
        :found="found"
        :metered="data.metered"
        :speeds="data.speeds"
        :can-edit="canEdit"
      />
      <SeriesReasons v-if="spots.length" :found="found" :spot="spot" />
      <details v-if="missing.length" class="block">
        <summary class="summary">Left out, and doubts: {{ missing.length }}</summary>
        <ul class="pl-5">
          <li v-for="words in missing" :key="words" class="py-1">{{ words }}</li>
        </ul>
      </details>
      <SeriesBehind v-if="spots.length" :found="found" :spot="spot" />
    </template>
  </template>
</template>

<style scoped>
.charts {
  gap: 20px 36px;
}
.answer {
  font-size: 1.06rem;
}
.summary {
  min-height: 28px;
  cursor: pointer;
}
</style>
