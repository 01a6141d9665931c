<script setup lang="ts">
import { computed, ref, useTemplateRef } from "vue";

import { useElementSize } from "@/viewer/useElementSize";
import { useLook } from "./useLook";
import { useLookKeys } from "./useLookKeys";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { type Size, toFrame, type View } from "@/viewer/geometry";
import { gridOf } from "./panes";
import LookBar from "./LookBar.vue";
import LookPane from "./LookPane.vue";
import LookReadout, { type Sample } from "./LookReadout.vue";

const { columns } = useStudyContext();
const stage = useTemplateRef<HTMLElement>("stage");
const ratio = window.devicePixelRatio || 1;
const css = useElementSize(stage);
const HEAD = 60;
const look = useLook(
  () => ({ width: css.value.width * ratio, height: css.value.height * ratio }),
  HEAD * ratio,
);
useLookKeys(look);

const panes = useTemplateRef<InstanceType<typeof LookPane>[]>("panes");
const samples = ref<Sample[]>([]);
const spot = ref<{ x: number; y: number }>();
const choices = computed(() => columns.value);

const grid = computed(() => gridOf(look.letters.value.length));

/** The same frame point under every pane's own pixels. */
function point(view: View, x: number, y: number, size: Size): void {
  const at = toFrame(view, size, x, y);
  spot.value = at;
  samples.value = (panes.value ?? []).flatMap((p) => p.sample(at, size) ?? []);
}
</script>

<template>
  <div class="look in-grid">
    <LookBar :look="look" />
    <div
      ref="stage"
      class="panes in-grid"
      :style="{
        gridTemplateColumns: `repeat(${grid.columns}, minmax(0, 1fr))`,
        gridTemplateRows: `repeat(${grid.rows}, minmax(0, 1fr))`,
      }"
    >
      <LookPane
        v-for="(pane, i) in look.panes.value"
        ref="panes"
        :key="i"
        :pane="pane"
        :choices="choices"
        :view="look.view.value"
        :patch="look.patch.value"
        :active="i === look.active.value"
        :match="look.match.value"
        :scale="look.scale.value"
        :pinned="look.pinned.value === i"
        @choose="look.active.value = i"
        @show="(letter) => ((look.active.value = i), look.show(letter))"
        @pan="look.pan"
        @pin="look.pin(i)"
        @zoom="look.zoom"
        @point="point"
      />
    </div>
    <LookReadout :spot="spot" :samples="samples" />
  </div>
</template>

<style scoped>
.look {
  grid-template-rows: auto minmax(0, 1fr) auto;
  height: 100dvh;
}
.panes {
  min-height: 0;
}
</style>
