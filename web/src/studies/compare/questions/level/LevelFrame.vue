<script setup lang="ts">
// One frame: what has to be raised, what was raised, and all three at one level.
import { computed } from "vue";

import type { Shape } from "@/api/client";
import CurveChart, { type ChartCurve } from "@/charts/CurveChart.vue";
import { colourOf } from "@/shared/lib/letters";
import { evidenceAddress } from "@/studies/compare/questions/queries";

import { readingRows, valuesText, type Way, WAYS } from "./level";

const props = defineProps<{
  studyId: number;
  cell: Shape["LevelFrameOut"];
  one: string;
  other: string;
  way: Way;
  several: boolean;
}>();
const curves = computed<ChartCurve[]>(() => [
  {
    name: `${props.other} over ${props.one}`,
    x: props.cell.frequency,
    y: props.cell.ratio,
    colour: colourOf(props.other),
  },
  ...(props.cell.fitted.length
    ? [
        {
          name: props.way === "contrast" ? "equal contrast" : "what was made",
          x: props.cell.frequency,
          y: props.cell.fitted,
        },
      ]
    : []),
]);
const SIDES = computed(
  () =>
    [
      ["before", props.one],
      ["made", made.value],
      ["other", props.other],
    ] as const,
);
const made = computed(() => `${props.one}, ${WAYS[props.way].done}`);
const rows = computed(() => readingRows(props.cell.readings));
const valley = computed(() =>
  (props.cell.fit?.valley ?? []).map(
    (p) => `radius ${p.reach.toFixed(2)} px, amount ${Math.round(100 * p.gain)} %`,
  ),
);
</script>

<template>
  <section class="block" :aria-label="cell.name">
    <h2 v-if="several">{{ cell.name }}</h2>
    <p v-if="cell.problem" class="rowan">{{ cell.problem }}</p>
    <template v-else>
      <div
        v-if="cell.key && cell.method"
        class="sides in-grid tiles pb-3"
        style="--at-least: 240px"
      >
        <figure v-for="[name, title] in SIDES" :key="name">
          <img :src="evidenceAddress(studyId, cell.key, name)" :alt="`${cell.shown}, ${title}`" />
          <figcaption class="soft small">{{ title }}</figcaption>
        </figure>
      </div>
      <div class="in-grid tiles ga-6" style="--at-least: 400px">
        <CurveChart
          v-if="cell.frequency.length"
          title="What has to be raised"
          :curves="curves"
          x-unit="cycles/px"
          y-unit="times"
          :height="210"
        />
        <div v-if="cell.fit">
          <p>
            Radius <span class="mono">{{ cell.fit.reach.value.toFixed(2) }}</span> px ({{
              cell.fit.reach.low.toFixed(2)
            }}
            to {{ cell.fit.reach.high.toFixed(2) }}), amount
            <span class="mono">{{ Math.round(100 * cell.fit.gain.value) }} %</span> ({{
              Math.round(100 * cell.fit.gain.low)
            }}
            to {{ Math.round(100 * cell.fit.gain.high) }}).
          </p>
          <details v-if="cell.fit.reached && valley.length > 1">
            <summary class="soft cursor-pointer">{{ valley.length }} pairs do as well</summary>
            <ul class="pl-5 small">
              <li v-for="words in valley" :key="words">{{ words }}</li>
            </ul>
          </details>
        </div>
        <p v-else-if="cell.method">
          {{ cell.method[0]?.toUpperCase() }}{{ cell.method.slice(1) }}:
          <span class="mono">{{ valuesText(cell.values) }}</span>
        </p>
      </div>
      <v-table v-if="rows.length" class="mt-3">
        <thead>
          <tr>
            <th scope="col">Measured at</th>
            <th scope="col" class="number">{{ one }}</th>
            <th scope="col" class="number">{{ made }}</th>
            <th scope="col" class="number">{{ other }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.what">
            <th scope="row">{{ row.what }}</th>
            <td v-for="(value, i) in row.values" :key="i" class="number mono">{{ value }}</td>
          </tr>
        </tbody>
      </v-table>
      <p v-else-if="cell.method" class="soft pt-2">
        <router-link :to="`/studies/${studyId}/patches`"
          >Draw plain, edge and texture patches</router-link
        >, and noise, halos and detail are measured at one level.
      </p>
    </template>
  </section>
</template>

<style scoped>
.sides {
  gap: 12px;
}
figure {
  margin: 0;
}
img {
  display: block;
  max-width: 100%;
}
</style>
