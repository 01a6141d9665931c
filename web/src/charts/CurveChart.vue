<script setup lang="ts">
// Curves over one axis, each named at its end; the numbers go as CSV.
import { LineChart } from "echarts/charts";
import { GridComponent, TooltipComponent } from "echarts/components";
import { use } from "echarts/core";
import { SVGRenderer } from "echarts/renderers";
import { computed } from "vue";
import VChart from "vue-echarts";

import ChartFrame from "./ChartFrame.vue";
import { isoAxis, stopsOf } from "./iso";
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
  /** Places are ISO values: equal steps of the axis are stops. */
  iso?: boolean;
}>();

const HEIGHT = 210;
const DASHES = ["solid", "dashed", "dotted"] as const;

const LETTER = 7; // px of a name's letter
/** Beside the ends of curves, for their names. */
const room = computed(() =>
  Math.max(64, 16 + LETTER * Math.max(...props.curves.map((c) => c.name.length))),
);
const option = computed(() => ({
  animation: false,
  grid: { left: 52, right: props.curves.length > 1 ? room.value : 16, top: 12, bottom: 40 },
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
    ...(props.iso ? isoAxis(props.curves.flatMap((c) => c.x)) : {}),
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

const LINE = 12; // px that a name at a curve's end needs

/** How far each name is moved from its curve's end, px down, so that none covers another. */
const moved = computed(() => {
  const height = (props.height ?? HEIGHT) - 52;
  const all = props.curves.flatMap((c) => c.y);
  const told = (y: number) => (props.logarithmic ? Math.log(Math.max(y, 1e-12)) : y);
  const [least, most] = [Math.min(...all.map(told)), Math.max(...all.map(told))];
  const at = props.curves.map(
    (c) => height * (1 - (told(c.y.at(-1) ?? 0) - least) / (most - least || 1)),
  );
  const order = at.map((_, i) => i).sort((a, b) => (at[a] ?? 0) - (at[b] ?? 0));
  const placed: number[] = [...at];
  order.forEach((i, rank) => {
    const above = order[rank - 1];
    if (above !== undefined) placed[i] = Math.max(at[i] ?? 0, (placed[above] ?? 0) + LINE);
  });
  // What was pushed down beyond the last end is shared out, so that names stay about their curves.
  const last = order.at(-1);
  const over = last === undefined ? 0 : ((placed[last] ?? 0) - (at[last] ?? 0)) / 2;
  // None stands above the chart, where it would be cut off.
  const under = Math.max(over - Math.min(...placed), 0);
  return placed.map((y, i) => y - (at[i] ?? 0) - over + under);
});

const place = (x: number): number => (props.iso ? stopsOf(x) : x);
const tint = (curve: ChartCurve) => curve.colour || ink;

function drawn(curve: ChartCurve, i: number) {
  return {
    type: "line" as const,
    name: curve.name,
    data: curve.x.map((x, at) => [place(x), curve.y[at]]),
    showSymbol: curve.x.length < 16,
    symbolSize: 5,
    lineStyle: {
      color: tint(curve),
      width: 1.5,
      type: curve.colour ? "solid" : DASHES[i % DASHES.length],
    },
    itemStyle: { color: tint(curve) },
    endLabel: {
      show: props.curves.length > 1,
      formatter: "{a}",
      ...font,
      color: tint(curve),
      offset: [4, moved.value[i] ?? 0],
    },
  };
}

/**
 * Two stacked lines without ink: the lower bound, and what lies between it and the upper one,
 * filled.
 */
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
    { ...line, data: curve.x.map((x, at) => [place(x), (curve.y[at] ?? 0) - (error[at] ?? 0)]) },
    {
      ...line,
      data: curve.x.map((x, at) => [place(x), 2 * (error[at] ?? 0)]),
      areaStyle: { color: tint(curve), opacity: 0.13 },
    },
  ];
}
</script>

<template>
  <ChartFrame
    :title="title"
    :curves="curves"
    :x-unit="xUnit"
    :y-unit="yUnit"
    :height="height ?? HEIGHT"
  >
    <v-chart
      :option="option"
      autoresize
      :style="{ height: `${height ?? HEIGHT}px` }"
      role="img"
      :aria-label="`${title}: ${yUnit} over ${xUnit}`"
    />
  </ChartFrame>
</template>
