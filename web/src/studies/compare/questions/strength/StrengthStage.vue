<script setup lang="ts">
// A setting over its range: what it does, where it does nothing, how evenly, and which setting of
// one tool belongs to another's.
import { computed } from "vue";

import CurveChart from "@/charts/CurveChart.vue";
import { useAddress } from "@/shared/lib/useAddress";
import QuietSelect from "@/shared/ui/QuietSelect.vue";
import CompareTabs from "@/studies/compare/CompareTabs.vue";
import InquiryState from "@/studies/compare/questions/InquiryState.vue";
import { useStrength, useStrengthChanges } from "@/studies/compare/questions/queries";
import QuestionTabs from "@/studies/compare/questions/QuestionTabs.vue";
import { useUses } from "@/studies/shared/uses/queries";
import { useStudyContext } from "@/studies/shared/useStudyContext";

import { measureCurves, noiseCurves, secondsCurves, shareCurves, tradeCurves } from "./curves";
import MatchedTable from "./MatchedTable.vue";
import StrengthRow from "./StrengthRow.vue";

const { study, canEdit } = useStudyContext();
const { inAddress } = useAddress();
const use = inAddress("use", () => "web");
const uses = useUses();
const stills = computed(() =>
  uses.value
    .filter((u) => !u.id.startsWith("video"))
    .map((u) => ({ value: u.id, title: u.name.split(",")[0] ?? u.name })),
);
const { data, error, isPending } = useStrength(() => study.value.id, use);
const { busy, measure } = useStrengthChanges(() => study.value.id);
const found = computed(() => data.value?.found ?? undefined);
const series = computed(() => found.value?.series ?? []);
const axis = computed(() => {
  const [first] = series.value;
  return first ? `${first.name}${first.unit ? `, ${first.unit}` : ""}` : "setting";
});
const charts = computed(() =>
  [
    {
      title: "How far it goes",
      curves: shareCurves(series.value),
      x: axis.value,
      y: "% of full strength",
    },
    {
      title: "Noise that is left",
      curves: noiseCurves(series.value),
      x: axis.value,
      y: "% of the frame’s",
    },
    {
      title: "Detail kept at equal noise",
      curves: tradeCurves(series.value),
      x: "noise left, % of the frame’s",
      y: "% of the texture",
    },
    {
      title: "Halos",
      curves: measureCurves(series.value, "overshoot"),
      x: axis.value,
      y: "% of the edge",
    },
    {
      title: "Speed",
      curves: secondsCurves(series.value),
      x: axis.value,
      y: "seconds for each megapixel",
    },
  ].filter((chart) => chart.curves.length),
);
</script>

<template>
  <div class="toolbar"><CompareTabs /></div>
  <div class="toolbar">
    <QuestionTabs />
    <span class="end row middle ga-2">
      <QuietSelect v-model="use" label="Noise unseen in" :items="stills" />
    </span>
  </div>
  <p v-if="error" class="rowan">{{ error.message }}</p>
  <v-skeleton-loader v-else-if="isPending" type="image" />
  <template v-else-if="data">
    <InquiryState
      :page="data"
      :found="!!found"
      :busy="busy"
      :can-edit="canEdit"
      doing="Each step is held against the even blend of the frame and full strength"
      @ask="measure(use)"
    />
    <v-empty-state
      v-if="!found && data.state !== 'waiting' && data.state !== 'failed'"
      title="What does a setting do over its range?"
      text="Enter one treatment several times, over values of its strength or another number, and bring its outputs in: three steps or more make a series. Two tools’ series are matched by the noise they leave."
    >
      <template v-if="canEdit" #actions>
        <v-btn variant="flat" :loading="busy" @click="measure(use)">Look at the series</v-btn>
        <v-btn :to="`/studies/${study.id}/set-up`">Enter a series</v-btn>
      </template>
    </v-empty-state>
    <template v-if="found">
      <section class="answer py-3" aria-label="Answer">
        <p v-for="words in found.said" :key="words">{{ words }}</p>
      </section>
      <div style="--at-least: 400px" class="charts in-grid tiles">
        <CurveChart
          v-for="chart in charts"
          :key="chart.title"
          :title="chart.title"
          :curves="chart.curves"
          :x-unit="chart.x"
          :y-unit="chart.y"
          :height="210"
        />
      </div>
      <MatchedTable v-for="m in found.matched" :key="m.one + m.other" :matched="m" />
      <StrengthRow
        v-for="one in series"
        :key="one.title + one.name"
        :series="one"
        :cells="found.cells"
      />
      <p class="soft small prose py-4">
        Each output is held against the even blend of the frame and the output at full strength, in
        places of 32 px. Told as uneven where the shares of places differ by 0.06 and more, beyond
        what is not known of each: of 200 even blends none were called uneven, of those patchy by
        0.08 and more 99 in 100 were found (bench “strength”). A place counts as done from 85 % on,
        as untouched up to 15 % (common practice, no source).
      </p>
    </template>
  </template>
</template>

<style scoped>
.answer {
  font-size: 1.06rem;
}
.charts {
  gap: 20px 36px;
}
</style>
