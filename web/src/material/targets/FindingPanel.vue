<script setup lang="ts">
// A target found in a frame: what each of its fields tells.
import { computed } from "vue";

import type { FieldReading, Finding, FrameDetail } from "@/api/types";
import CurveChart from "@/charts/CurveChart.vue";
import { fixed } from "@/shared/lib/words";

const props = defineProps<{ finding: Finding; system?: FrameDetail["system"] }>();
const numbers = computed(() => [...new Set(props.finding.readings.map((r) => r.field))]);
const of = (field: number) => props.finding.readings.filter((r) => r.field === field);

function told(r: FieldReading): string {
  return r.value === null ? "" : `${fixed(r.value, r.digits)} ${r.unit}`;
}

function interval(r: FieldReading): string {
  return r.value !== null && r.low !== null && r.high !== null
    ? `${fixed(r.low, r.digits)} to ${fixed(r.high, r.digits)}`
    : "";
}
const how = computed(() => {
  const { turn, scale } = props.finding;
  return `${fixed(100 * scale, 1)} % of the sheet’s size, turned by ${fixed(turn, 1)}°`;
});
/** Curves in the same units of one field share a chart. */
const charts = computed(() => {
  const groups = new Map<string, Finding["curves"]>();
  for (const c of props.finding.curves) {
    const key = `${c.field}/${c.x_unit}/${c.y_unit}`;
    groups.set(key, [...(groups.get(key) ?? []), c]);
  }
  return [...groups.values()];
});

/** Of curves that share a chart, only what tells them apart. */
function named(group: Finding["curves"]) {
  return group.map((c) => ({ ...c, name: c.name.split(", ")[1] ?? c.name }));
}
</script>

<template>
  <div>
    <p>
      <strong>{{ finding.name }}</strong> <span class="soft">{{ how }}</span>
    </p>
    <p v-if="finding.reason" class="rowan">{{ finding.reason }}</p>
    <div v-if="system" class="pt-1">
      <p>
        Lens and sensor together<template v-if="system.lens">, through {{ system.lens }}</template
        >:
        <span v-for="(s, i) in system.sharpness" :key="s.name"
          >{{ i ? "; " : "" }}{{ s.name }}
          <span class="mono">{{ fixed(s.per_height, 0) }} lp/ph</span
          ><template v-if="s.per_mm !== null"
            >, <span class="mono">{{ fixed(s.per_mm, 1) }} lp/mm</span></template
          ></span
        >.
      </p>
      <p v-if="system.aliasing" class="soft">{{ system.aliasing }}</p>
    </div>
    <div
      style="--columns: minmax(420px, 560px) minmax(0, 1fr)"
      class="both in-grid align-start mt-2 columns gr-2 gc-8"
    >
      <v-table class="readings">
        <thead>
          <tr>
            <th scope="col">Field</th>
            <th scope="col">Reading</th>
            <th scope="col" class="value text-end text-no-wrap">Value</th>
            <th scope="col">95 % interval</th>
          </tr>
        </thead>
        <tbody v-for="n in numbers" :key="n">
          <tr v-for="(r, i) in of(n)" :key="r.name">
            <th v-if="i === 0" scope="rowgroup" :rowspan="of(n).length" class="mono">{{ n }}</th>
            <td>{{ r.name }}</td>
            <td v-if="r.value === null" colspan="2" class="soft">{{ r.reason }}</td>
            <template v-else>
              <td class="mono value text-end text-no-wrap">{{ told(r) }}</td>
              <td class="mono soft">{{ interval(r) }}</td>
            </template>
          </tr>
        </tbody>
      </v-table>
      <div style="--at-least: 260px" class="charts in-grid gr-4 gc-7 tiles">
        <CurveChart
          v-for="group in charts"
          :key="group[0]!.name"
          :curves="named(group)"
          :title="`Field ${group[0]!.field}: ${group[0]!.name.split(',')[0]}`"
          :x-unit="group[0]!.x_unit"
          :y-unit="group[0]!.y_unit"
        />
      </div>
    </div>
  </div>
</template>

<style scoped>
tbody th {
  vertical-align: top;
  border-bottom-color: var(--hair);
}
</style>
