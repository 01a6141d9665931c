<script setup lang="ts">
// A pane's remarks: their numbers in its margin, and where they are, over the picture, only while
// that is asked for.
import { computed } from "vue";

import type { Remark } from "@/api/types";
import { apart, saidBy } from "@/studies/shared/remarks/remarks";
import { type Size, toCanvas, type View } from "@/viewer/geometry";

const props = defineProps<{
  remarks: readonly Remark[];
  view: View;
  canvas: Size;
  /** All of them, or the one that is pointed at. */
  shown: "all" | number | undefined;
}>();
const emit = defineEmits<{ open: [remark: Remark]; point: [id: number | undefined] }>();
const WIDE = 24; // CSS px of a number
const ratio = window.devicePixelRatio || 1;
const spots = computed(() => {
  const inside = props.remarks
    .map((remark) => {
      const at = toCanvas(props.view, props.canvas, remark.x, remark.y);
      return { remark, x: at.x / ratio, y: at.y / ratio };
    })
    .filter(
      ({ x, y }) =>
        x >= 0 && y >= 0 && x <= props.canvas.width / ratio && y <= props.canvas.height / ratio,
    );
  const lefts = apart(
    inside.map((s) => s.x - WIDE / 2),
    WIDE,
  );
  return inside.map((s, i) => ({ ...s, left: Math.max(0, lefts[i] ?? 0) }));
});
const isShown = (id: number): boolean => props.shown === "all" || props.shown === id;
</script>

<template>
  <div class="margin position-relative hair-below">
    <IconAction
      v-for="s in spots"
      :key="s.remark.id"
      class="number position-absolute mono small"
      :style="{ left: `${s.left}px` }"
      :aria-label="`Remark ${s.remark.number}: ${saidBy(s.remark)}`"
      @click="emit('open', s.remark)"
      @mouseenter="emit('point', s.remark.id)"
      @mouseleave="emit('point', undefined)"
      @focus="emit('point', s.remark.id)"
      @blur="emit('point', undefined)"
    >
      {{ s.remark.number }}
    </IconAction>
    <template v-for="s in spots" :key="s.remark.id">
      <span
        v-if="isShown(s.remark.id)"
        class="spot position-absolute"
        aria-hidden="true"
        :style="{ left: `${s.x}px`, top: `${s.y}px` }"
      />
    </template>
  </div>
</template>

<style scoped>
.margin {
  height: 24px;
}
.number {
  top: 0;
  width: 24px;
  min-width: 24px;
  height: 23px;
}
.spot {
  z-index: 1;
  width: 22px;
  height: 22px;
  /* Its place is told from the picture's corner, which is the margin's lower one. */
  margin: 13px 0 0 -11px;
  border: 1.5px solid #fff;
  outline: 1.5px solid #000;
  border-radius: 50%;
  pointer-events: none;
}
</style>
