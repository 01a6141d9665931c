<script setup lang="ts">
// Curves over one axis, each named at its end; the numbers go as CSV.
import { LineChart } from "echarts/charts";
import { GridComponent, TooltipComponent } from "echarts/components";
import { use } from "echarts/core";
import { SVGRenderer } from "echarts/renderers";
import { computed } from "vue";
import VChart from "vue-echarts";

import { csvAddress } from "./csv";

export interface ChartCurve {
  name: string;
  x: readonly number[];
  y: readonly number[];
}

use([LineChart, GridComponent, TooltipComponent, SVGRenderer]);

const props = defineProps<{
  curves: readonly ChartCurve[];
  title: string;
  xUnit: string;
  yUnit: string;
  height?: number;
  xRange?: readonly [number, number];
}>();

const ink = "currentColor";
const font = { fontFamily: "Spline Sans Mono Variable, monospace", fontSize: 11 };
const axis = {
  type: "value" as const,
  nameLocation: "middle" as const,
  nameTextStyle: { ...font, color: ink },
  axisLabel: { ...font, color: ink },
  axisLine: { show: true, lineStyle: { color: ink } },
  splitLine: { lineStyle: { color: ink, opacity: 0.14 } },
};
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
  yAxis: { ...axis, name: props.yUnit, nameGap: 38, scale: true },
  series: props.curves.map((curve, i) => ({
    type: "line" as const,
    name: curve.name,
    data: curve.x.map((x, at) => [x, curve.y[at]]),
    showSymbol: curve.x.length < 16,
    symbolSize: 5,
    lineStyle: { color: ink, width: 1.5, type: DASHES[i % DASHES.length] },
    itemStyle: { color: ink },
    endLabel: {
      show: props.curves.length > 1,
      formatter: "{a}",
      ...font,
      color: ink,
      offset: [0, i % 2 ? 8 : -8],
    },
  })),
}));
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
