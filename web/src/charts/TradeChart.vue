<script setup lang="ts">
// Two measures against each other: a letter at each contender's medians, whiskers, the front, even
// blends dotted.
import { CustomChart, LineChart, ScatterChart } from "echarts/charts";
import { GridComponent, TooltipComponent } from "echarts/components";
import { use } from "echarts/core";
import { SVGRenderer } from "echarts/renderers";
import { computed } from "vue";
import VChart from "vue-echarts";

import type { Trade } from "@/api/types";
import { colourOf } from "@/shared/lib/letters";
import ChartFrame from "./ChartFrame.vue";
import { axis, font, ink } from "./style";

use([CustomChart, LineChart, ScatterChart, GridComponent, TooltipComponent, SVGRenderer]);

const props = defineProps<{ trade: Trade; title: string; xName: string; yName: string }>();
const front = computed(() =>
  props.trade.front
    .map((letter) => props.trade.points.find((p) => p.letter === letter))
    .filter((p) => p !== undefined)
    .map((p) => [p.x.value, p.y.value]),
);
const whiskers = computed(() =>
  props.trade.points.flatMap((p) => {
    const style = { color: colourOf(p.letter) || ink, width: 1, opacity: 0.55 };
    const across = {
      data: [
        [p.x.low, p.y.value],
        [p.x.high, p.y.value],
      ],
      style,
    };
    const up = {
      data: [
        [p.x.value, p.y.low],
        [p.x.value, p.y.high],
      ],
      style,
    };
    return [across, up];
  }),
);
const line = { type: "line" as const, symbol: "none", silent: true };
const option = computed(() => ({
  animation: false,
  grid: { left: 60, right: 24, top: 16, bottom: 44 },
  xAxis: { ...axis, name: props.xName, nameGap: 28, scale: true },
  yAxis: { ...axis, name: props.yName, nameGap: 44, scale: true },
  series: [
    ...props.trade.blends.map((b) => ({
      ...line,
      data: b.x.map((x, i) => [x, b.y[i]]),
      lineStyle: { color: colourOf(b.letter) || ink, width: 1.2, type: "dotted" as const },
    })),
    ...whiskers.value.map((w) => ({ ...line, data: w.data, lineStyle: w.style })),
    { ...line, data: front.value, lineStyle: { color: ink, width: 1.2, type: "solid" as const } },
    {
      type: "scatter" as const,
      symbol: "rect",
      symbolSize: 17,
      data: props.trade.points.map((p) => ({
        value: [p.x.value, p.y.value],
        itemStyle: colourOf(p.letter)
          ? { color: colourOf(p.letter), opacity: 1 }
          : { color: "transparent", borderColor: ink, borderWidth: 1.5 },
        label: {
          show: true,
          formatter: p.letter,
          ...font,
          fontWeight: 600,
          color: colourOf(p.letter) ? "#fff" : ink,
        },
      })),
    },
  ],
}));
const medians = computed(() =>
  props.trade.points.map((p) => ({ name: p.letter, x: [p.x.value], y: [p.y.value] })),
);
</script>

<template>
  <ChartFrame :title="title" :curves="medians" :x-unit="xName" :y-unit="yName" :height="380">
    <v-chart
      :option="option"
      autoresize
      style="height: 380px"
      role="img"
      :aria-label="`${title}. Nobody beats ${trade.front.join(', ')} at both.`"
    />
  </ChartFrame>
</template>
