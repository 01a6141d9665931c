<script setup lang="ts">
// What a line-up leaves over, as arrows over the frame, magnified; and the border that was left
// out.
import { computed, useTemplateRef } from "vue";

import type { Examination, Output, Picture } from "@/api/types";
import { useElementSize } from "@/viewer/useElementSize";
import { wholeView } from "@/viewer/geometry";
import TileCanvas from "@/viewer/TileCanvas.vue";

const props = defineProps<{
  frame: Picture;
  output: Output;
  cells: Examination["cells"];
  magnified: number;
  /** Which of the two is shown below the arrows. */
  shown: "frame" | "output";
}>();
const ground = useTemplateRef<HTMLElement>("ground");
const room = useElementSize(ground);
const ratio = computed(() => (room.value.width ? props.frame.width / room.value.width : 1));
const height = computed(
  () => `${(room.value.width * props.frame.height) / Math.max(1, props.frame.width)}px`,
);
const view = computed(() => {
  const pixels = window.devicePixelRatio || 1;
  return wholeView(props.frame, {
    width: room.value.width * pixels,
    height: (room.value.width * pixels * props.frame.height) / Math.max(1, props.frame.width),
  });
});
const arrows = computed(() =>
  props.cells.map((c) => ({
    x: c.x,
    y: c.y,
    tx: c.x + c.dx * props.magnified,
    ty: c.y + c.dy * props.magnified,
    sure: c.alike >= 0.4,
    // Shorter than the head, an arrow would say a direction that was hardly measured.
    long: Math.hypot(c.dx, c.dy) * props.magnified > 9 * ratio.value,
    told: `${Math.round(c.x)}, ${Math.round(c.y)}: ${c.dx.toFixed(2)}, ${c.dy.toFixed(2)} px, alike ${c.alike.toFixed(2)}`,
  })),
);
/** The part of the frame that the output's own picture covers. */
const seen = computed(() => {
  const l = props.output.lineup;
  const p = props.output.picture;
  if (!l || !p || l.left + l.top + l.right + l.bottom === 0) return null;
  return {
    x: (l.left - l.dx) / l.sx,
    y: (l.top - l.dy) / l.sy,
    width: (p.width - l.left - l.right) / l.sx,
    height: (p.height - l.top - l.bottom) / l.sy,
  };
});
</script>

<template>
  <div ref="ground" class="field position-relative on-surround" :style="{ height }">
    <TileCanvas
      v-if="view.zoom"
      :picture="shown === 'output' && output.picture ? output.picture : frame"
      :mapping="shown === 'output' ? output.lineup : null"
      :view="view"
      :label="shown === 'output' ? 'the output, lined up' : 'the frame'"
    />
    <svg
      class="over-all"
      :viewBox="`0 0 ${frame.width} ${frame.height}`"
      role="img"
      :aria-label="`${cells.length} places measured`"
    >
      <defs>
        <marker
          id="head"
          viewBox="0 0 6 6"
          refX="5"
          refY="3"
          markerWidth="5"
          markerHeight="5"
          orient="auto"
        >
          <path d="M0 0 6 3 0 6z" fill="#111" stroke="#fff" stroke-width="0.7" />
        </marker>
      </defs>
      <rect v-if="seen" v-bind="seen" class="seen" :stroke-width="2 * ratio" />
      <g v-for="a in arrows" :key="`${a.x}/${a.y}`" :class="{ faint: !a.sure }">
        <title>{{ a.told }}</title>
        <circle :cx="a.x" :cy="a.y" :r="3 * ratio" class="halo" />
        <line
          v-if="a.long"
          :x1="a.x"
          :y1="a.y"
          :x2="a.tx"
          :y2="a.ty"
          class="halo"
          :stroke-width="5 * ratio"
        />
        <circle :cx="a.x" :cy="a.y" :r="2 * ratio" />
        <line
          v-if="a.long"
          :x1="a.x"
          :y1="a.y"
          :x2="a.tx"
          :y2="a.ty"
          :stroke-width="2 * ratio"
          marker-end="url(#head)"
        />
      </g>
    </svg>
  </div>
</template>

<style scoped>
line {
  stroke: #111;
}
circle {
  fill: #111;
}
.halo {
  stroke: #fff;
  fill: #fff;
}
.faint {
  opacity: 0.45;
}
.seen {
  fill: none;
  stroke: #fff;
  stroke-dasharray: 12 8;
}
</style>
