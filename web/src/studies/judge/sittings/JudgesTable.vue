<script setup lang="ts">
// Judges held against themselves, and whom it is proposed to leave out.
import type { Shape } from "@/api/client";

import { percent } from "./words";

defineProps<{ judges: readonly Shape["JudgeOut"][] }>();
const share = (told: Shape["IntervalOut"] | null): string => (told ? percent(told.value) : "—");
const seconds = (s: number | null): string => (s === null ? "—" : `${s.toFixed(1)} s`);
const COLUMNS = ["Answers", "Each", "Same again", "Equal seen as equal", "Obvious", "Left"];
</script>

<template>
  <v-table>
    <thead>
      <tr>
        <th scope="col">Judge</th>
        <th v-for="c in COLUMNS" :key="c" scope="col" class="num">{{ c }}</th>
        <th scope="col">Proposed to leave out</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="j in judges" :key="j.number">
        <td>{{ j.number }} {{ j.name }}{{ j.guest ? " (guest)" : "" }}</td>
        <td class="num mono">{{ j.answers }} of {{ j.places }}</td>
        <td class="num mono">{{ seconds(j.median_s) }}</td>
        <td class="num mono">{{ share(j.repeats) }}</td>
        <td class="num mono">{{ share(j.equal) }}</td>
        <td class="num mono">{{ share(j.obvious) }}</td>
        <td class="num mono">{{ share(j.left) }}</td>
        <td :class="{ rowan: j.reasons.length }">{{ j.reasons.join("; ") || "no" }}</td>
      </tr>
    </tbody>
  </v-table>
</template>

<style scoped>
.num {
  text-align: right;
  white-space: nowrap;
}
</style>
