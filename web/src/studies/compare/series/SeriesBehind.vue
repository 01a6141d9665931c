<script setup lang="ts">
// What every number of the page was read from: by body, spot and ISO, with the files and how.
import type { SeriesFound } from "@/api/types";
import { fixed } from "@/shared/lib/words";

defineProps<{ found: SeriesFound; spot: number }>();
const percent = (v: number | undefined): string => `${fixed(100 * (v ?? 0), 2)} %`;
type Lifts = SeriesFound["bodies"][number]["lifts"];
function liftOf(lifts: Lifts, iso: number): string {
  const lift = lifts.find((l) => l.iso === iso);
  return lift ? bounds(lift.stops, 2) : "–";
}
const bounds = (of: readonly number[], digits: number): string =>
  `${fixed(of[0] ?? 0, digits)} (${fixed(of[1] ?? 0, digits)} to ${fixed(of[2] ?? 0, digits)})`;
</script>

<template>
  <details class="block">
    <summary class="summary">What this was read from</summary>
    <p class="soft py-2 wide">
      Signal to noise is the mean above black over the temporal deviation, half the variance of the
      difference of two frames (EMVA 1288), of green pixels. Stops are how far apart along ISO two
      curves reach the same ratio; intervals of 95 % come from leaving out parts of the patch and
      drawing both curves again.
      <router-link to="/guide/sensors">How sensors are measured</router-link>
    </p>
    <v-table v-for="body in found.bodies" :key="body.name" class="mb-4">
      <caption class="text-start font-weight-medium">
        {{
          body.letter
        }},
        {{
          body.name
        }}
      </caption>
      <thead>
        <tr>
          <th scope="col">ISO</th>
          <th scope="col" class="number">Brightness, of saturation</th>
          <th scope="col" class="number">Signal to noise of a pixel</th>
          <th v-if="body.lifts.length" scope="col" class="number">Brighter than the first, EV</th>
          <th scope="col">Files</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in body.spots[spot]?.readings ?? []" :key="r.iso">
          <th scope="row" class="mono">{{ r.iso.toLocaleString("en-GB") }}</th>
          <td class="mono number">{{ percent(r.light[0]) }}</td>
          <td class="mono number">{{ bounds(r.snr, 2) }}</td>
          <td v-if="body.lifts.length" class="mono number">{{ liftOf(body.lifts, r.iso) }}</td>
          <td class="small">{{ r.files.join(", ") }}</td>
        </tr>
      </tbody>
    </v-table>
  </details>
</template>

<style scoped>
.summary {
  min-height: 28px;
  cursor: pointer;
}
.wide {
  max-width: 80ch;
}
</style>
