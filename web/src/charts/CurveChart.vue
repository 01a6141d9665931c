<script setup lang="ts">
// Curves over one axis, each named at its end; the numbers go as CSV.
import { LineChart } from "echarts/charts";
import { GridComponent, TooltipComponent } from "echarts/components";
import { use } from "echarts/core";
import { SVGRenderer } from "echarts/renderers";
import { computed } from "vue";
import VChart from "vue-echarts";

import { csvAddress } from "./csv";
import { axis, font, ink } from "./style";

export interface ChartCurve {
  name: string;
  x: readonly number[];
  y: readonly number[];
  /** Half of the 95 % interval at each place, drawn as a band. */
  error?: readonly number[];
  /** A contender's; ink where there is none. */
  colour?: string;
}

use([LineChart, GridComponent, TooltipComponent, SVGRenderer]);

const props = defineProps<{
  curves: readonly ChartCurve[];
  title: string;
  xUnit: string;
  yUnit: string;
  height?: number;
  xRange?: readonly [number, number];
  logarithmic?: boolean;
}>();

const DASHES = ["solid", "dashed", "dotted"] as const;

const option = computed(() => ({
  animation: false,
  grid: { left: 52, right: props.curves.length > 1 ? 64 : 16, top: 12, bottom: 40 },
  tooltip: {
    trigger: "axis" as const,
    valueFormatter: (v: unknown) => Number(v).toPrecision(3),
    textStyle: font,
  },
  xAxis: {
    ...axis,
    name: props.xUnit,
    nameGap: 26,
    scale: true,
    min: props.xRange?.[0],
    max: props.xRange?.[1],
  },
  yAxis: {
    ...axis,
    type: props.logarithmic ? ("log" as const) : ("value" as const),
    name: props.yUnit,
    nameGap: 38,
    scale: true,
  },
  series: [...props.curves.flatMap(band), ...props.curves.map(drawn)],
}));

const tint = (curve: ChartCurve) => curve.colour || ink;

function drawn(curve: ChartCurve, i: number) {
  return {
    type: "line" as const,
    name: curve.name,
    data: curve.x.map((x, at) => [x, curve.y[at]]),
    showSymbol: curve.x.length < 16,
    symbolSize: 5,
    lineStyle: { color: tint(curve), width: 1.5, type: curve.colour ? "solid" : DASHES[i % DASHES.length] },
    itemStyle: { color: tint(curve) },
    labelLayout: { moveOverlap: "shiftY" as const },
    endLabel: {
      show: props.curves.length > 1,
      formatter: "{a}",
      ...font,
      color: tint(curve),
      offset: curve.colour ? [4, 0] : [0, i % 2 ? 8 : -8],
    },
  };
}

/** Two stacked lines without ink: the lower bound, and what lies between it and the upper one, filled. */
function band(curve: ChartCurve, i: number) {
  const error = curve.error;
  if (!error?.length || props.logarithmic) return [];
  const line = {
    type: "line" as const,
    stack: `band ${i}`,
    stackStrategy: "all" as const,
    symbol: "none",
    silent: true,
    lineStyle: { opacity: 0 },
    tooltip: { show: false },
  };
  return [
    { ...line, data: curve.x.map((x, at) => [x, (curve.y[at] ?? 0) - (error[at] ?? 0)]) },
    {
      ...line,
      data: curve.x.map((x, at) => [x, 2 * (error[at] ?? 0)]),
      areaStyle: { color: tint(curve), opacity: 0.13 },
    },
  ];
}
const csv = computed(() => csvAddress(props.curves, props.xUnit, props.yUnit));
</script>

<template>
  <figure class="chart">
    <figcaption>
      {{ title }} <a :href="csv" :download="`${title}.csv`" :aria-label="`${title} as CSV`">CSV</a>
    </figcaption>
    <v-chart
      :option="option"
      autoresize
      :style="{ height: `${height ?? 210}px` }"
      role="img"
      :aria-label="`${title}: ${yUnit} over ${xUnit}`"
    />
  </figure>
</template>

<style scoped>
.chart {
  color: var(--ink);
  min-width: 0;
}
figcaption {
  font-weight: 600;
  display: flex;
  justify-content: space-between;
  gap: 12px;
}
figcaption a {
  font-weight: 400;
}
</style>
