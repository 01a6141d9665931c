<script setup lang="ts">
// How an output's tone and colour differ from its frame's: the curve, numbers, regions side by
// side, hues.
import { computed } from "vue";

import type { Examination } from "@/api/types";
import CurveChart from "@/charts/CurveChart.vue";
import { addedBy, columnsOf, toneValues } from "./examined";
import ValueList from "./ValueList.vue";

const props = defineProps<{ found: Examination }>();
const COLUMNS = 6;
const curve = computed(() => columnsOf(props.found, "tone"));
const stops = computed(() => props.found.values.find((v) => v.name === "exposure")?.value ?? 0);
const added = computed(() =>
  (curve.value?.output ?? []).map((y, i) => 255 * (y - (curve.value?.frame?.[i] ?? 0))),
);
const values = computed(() => toneValues(props.found));
const codes = (list: readonly number[]) => list.map((v) => v * 255);
const rgb = (c: readonly number[]) => `rgb(${c.join(" ")})`;
const signed = (v: number) => (v > 0 ? "+" : "") + v.toFixed(2).replace("-", "−");
</script>

<template>
  <section aria-label="Tone and colour">
    <p v-if="found.reasons.tone" class="rowan">{{ found.reasons.tone }}.</p>
    <div v-else style="--columns: minmax(0, 1fr) 400px" class="sides in-grid py-4 columns ga-8">
      <div>
        <CurveChart
          v-if="curve?.frame && curve.output"
          title="What was added to each tone"
          x-unit="tone of the frame, 8-bit levels"
          y-unit="output less frame, 8-bit levels"
          :height="320"
          :x-range="[0, 255]"
          :curves="[
            { name: 'output', x: codes(curve.frame), y: added },
            { name: 'exposure', x: codes(curve.frame), y: addedBy(stops, curve.frame) },
          ]"
        />
        <p class="soft">
          Medians of plain areas, all three channels; made to rise. Dashed: what the difference in
          exposure alone would add.
        </p>
      </div>
      <ValueList :rows="values" label="Tone and colour in numbers" />
    </div>
    <h3 class="mt-5">Regions</h3>
    <p class="soft">
      Left the frame's mean colour, right the output's; the difference in EV, and in CIEDE2000 at
      equal brightness.
    </p>
    <div class="in-grid ga-3 pt-2" :style="{ gridTemplateColumns: `repeat(${COLUMNS}, 1fr)` }">
      <div
        v-for="r in found.regions"
        :key="`${r.column}/${r.row}`"
        class="in-grid small"
        :style="{ gridColumn: r.column + 1, gridRow: r.row + 1 }"
      >
        <span style="--columns: 1fr 1fr; height: 44px" class="in-grid pa-2 on-surround columns">
          <span :style="{ background: rgb(r.frame) }" /><span
            :style="{ background: rgb(r.output) }"
          />
        </span>
        <span class="mono">{{ signed(r.stops) }} EV, {{ r.de00.toFixed(1) }}</span>
        <span class="soft">{{ r.hue }}</span>
      </div>
    </div>
    <template v-if="found.hues.length">
      <h3 class="mt-5">Hues</h3>
      <v-table style="max-width: 640px" class="hues">
        <thead>
          <tr>
            <th scope="col">Hue of the frame</th>
            <th scope="col">Areas</th>
            <th scope="col">Chroma</th>
            <th scope="col">Turned</th>
            <th scope="col">CIEDE2000</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="h in found.hues" :key="h.hue">
            <th scope="row">{{ h.hue }}</th>
            <td class="mono">{{ h.areas }}</td>
            <td class="mono">{{ h.chroma.toFixed(2) }} times</td>
            <td class="mono">{{ signed(h.turned) }}°</td>
            <td class="mono">{{ h.de00.toFixed(2) }}</td>
          </tr>
        </tbody>
      </v-table>
    </template>
    <p v-if="found.reasons.colour" class="soft">{{ found.reasons.colour }}.</p>
  </section>
</template>
