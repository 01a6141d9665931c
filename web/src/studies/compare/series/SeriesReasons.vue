<script setup lang="ts">
// Why one body is ahead at a spot: what of it is area, electrons, read noise, and what is left.
import { computed } from "vue";

import type { SeriesFound } from "@/api/types";
import { fixed } from "@/shared/lib/words";

import { pairNamed } from "./series";

const props = defineProps<{ found: SeriesFound; spot: number }>();
const rows = computed(() =>
  props.found.why
    .filter((w) => w.spot === props.spot)
    .map((w) => ({
      ...w,
      pair: pairNamed(props.found, { ...w } as never),
      whole: w.reasons.reduce((sum, r) => sum + r.stops, 0),
    })),
);
const names = computed(() => rows.value[0]?.reasons.map((r) => r.name) ?? []);
const signed = (v: number): string => (v > 0 ? "+" : "") + fixed(v, 2);
</script>

<template>
  <section class="block" aria-label="Reasons of the advantage">
    <div class="block-head">
      <h2>What the advantage is made of</h2>
      <span class="soft">stops at the same shutter and f-number, in no order of reasons</span>
    </div>
    <v-table v-if="rows.length">
      <thead>
        <tr>
          <th scope="col">ISO</th>
          <th v-if="found.bodies.length > 2" scope="col">Bodies</th>
          <th scope="col" class="number">Ahead</th>
          <th v-for="name in names" :key="name" scope="col" class="number">{{ name }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="w in rows" :key="`${w.one}/${w.other}/${w.iso}`">
          <th scope="row" class="mono">{{ w.iso.toLocaleString("en-GB") }}</th>
          <td v-if="found.bodies.length > 2">{{ w.pair }}</td>
          <td class="mono number">{{ signed(w.whole) }}</td>
          <td v-for="r in w.reasons" :key="r.name" class="mono number">{{ signed(r.stops) }}</td>
        </tr>
      </tbody>
    </v-table>
    <p v-else class="soft py-2">
      Nothing to take apart: the sensors’ sizes have to be described on the Cameras page, and gain
      and read noise be known at the same ISO of both bodies.
    </p>
  </section>
</template>
