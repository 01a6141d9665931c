<script setup lang="ts">
import { computed, ref, useTemplateRef } from "vue";

import { useElementSize } from "@/viewer/useElementSize";
import { useLook } from "./useLook";
import { useLookKeys } from "./useLookKeys";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { toFrame } from "@/viewer/geometry";
import LookBar from "./LookBar.vue";
import LookPane from "./LookPane.vue";
import LookReadout, { type Sample } from "./LookReadout.vue";

const { columns } = useStudyContext();
const stage = useTemplateRef<HTMLElement>("stage");
const ratio = window.devicePixelRatio || 1;
const css = useElementSize(stage);
const paneSize = (): { width: number; height: number } => ({
  width: (css.value.width / Math.max(1, look.letters.value.length)) * ratio,
  height: Math.max(0, css.value.height - HEAD) * ratio,
});
const HEAD = 60;
const look = useLook(paneSize);
useLookKeys(look);

const panes = useTemplateRef<InstanceType<typeof LookPane>[]>("panes");
const samples = ref<Sample[]>([]);
const spot = ref<{ x: number; y: number }>();
const choices = computed(() => columns.value);

/** The same frame point under every pane's own pixels. */
function point(x: number, y: number, size: { width: number; height: number }): void {
  spot.value = toFrame(look.view.value, size, x, y);
  samples.value = (panes.value ?? []).flatMap((p) => p.sample(x, y) ?? []);
}
</script>

<template>
  <div class="look in-grid">
    <LookBar :look="look" />
    <div ref="stage" class="panes in-grid">
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
        @choose="look.active.value = i"
        @show="(letter) => ((look.active.value = i), look.show(letter))"
        @pan="look.pan"
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
  grid-auto-flow: column;
  grid-auto-columns: minmax(0, 1fr);
  min-height: 0;
}
</style>
