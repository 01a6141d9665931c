<script setup lang="ts">
import { useIntervalFn } from "@vueuse/core";
import { computed, defineAsyncComponent, onMounted, ref, useTemplateRef, watch } from "vue";

import { useElementSize } from "@/viewer/useElementSize";
import { useLook } from "./useLook";
import { nextOf, useLookKeys } from "./useLookKeys";
import { useReadout } from "./useReadout";
import { useRemarking } from "./useRemarking";
import { useSeeing } from "./useSeeing";
import { useTaking } from "./useTaking";
import type { ShownPane } from "./viewPicture";
import { useRemarks } from "@/studies/shared/remarks/queries";
import RemarkDialog from "@/studies/shared/remarks/RemarkDialog.vue";
import { figureOf, partInView, type Taken, useFigures } from "@/studies/shared/figures/figures";
import { callsOf, useNamedCalls } from "@/studies/shared/namedCalls";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { type Size, toFrame, type View } from "@/viewer/geometry";
import { gridOf } from "./panes";
import LookBar from "./LookBar.vue";
import LookPane from "./LookPane.vue";

// What is seldom wanted, charts above all, is fetched when it is.
const LookProfile = defineAsyncComponent(() => import("./LookProfile.vue"));
const UsesDialog = defineAsyncComponent(() => import("@/studies/shared/uses/UsesDialog.vue"));
const ScreenDialog = defineAsyncComponent(() => import("@/viewer/ScreenDialog.vue"));
const stage = useTemplateRef<HTMLElement>("stage");
const ratio = window.devicePixelRatio || 1;
const css = useElementSize(stage);
/** Head, foot and rule of a pane, and the margin that remarks take where there are any: CSS px. */
const REST = 60 + 26 + 1;
const MARGIN = 24;
const BAR_AT_LATEST = 1000; // ms
const { study, columns, canEdit } = useStudyContext();
const remarks = useRemarks(() => study.value.id);
/** Every frame's panes have a margin where any of the study's has remarks. */
const margin = computed(() => (remarks.value.length ? MARGIN : 0));
const look = useLook(
  () => ({ width: css.value.width * ratio, height: css.value.height * ratio }),
  () => (REST + margin.value) * ratio,
);
const readout = useReadout();
const seeing = useSeeing(look);
const remarking = useRemarking(look, remarks);

/** At the pointer, or in the middle of what is seen. */
function remark(): void {
  const { x, y } = readout.spot.value ?? look.view.value;
  remarking.place(x, y, look.panes.value[look.active.value]?.contender.id);
}
/** The dialog that is open. */
const asking = ref<"uses" | "screen">();
const asked = computed({
  get: () => asking.value !== undefined,
  set: (to) => {
    if (!to) asking.value = undefined;
  },
});
function lifeSize(): void {
  if (!seeing.toLifeSize()) asking.value = "screen";
}
// The picture comes first: tools take a while to stand there, whatever becomes of it.
const begun = ref(false);
const begin = () => (begun.value = true);
onMounted(() => setTimeout(begin, BAR_AT_LATEST));
/** Once it is seen, not only drawn. */
const seen = () => begun.value || requestAnimationFrame(() => setTimeout(begin));
const panes = useTemplateRef<InstanceType<typeof LookPane>[]>("panes");
/** Of those in sight: while they lie over each other, the one on top. */
function shown(): ShownPane[] {
  const seen = (panes.value ?? []).filter((_, i) => !stacked.value || i === look.inSight.value);
  return seen.flatMap((p) => p.shown() ?? []);
}
const title = computed(() => {
  const at = study.value.patches.findIndex((p) => p.id === look.patch.value?.id);
  const p = study.value.patches[at];
  const name = look.frame.value?.name ?? "";
  return p ? `${p.name}, ${p.role}, ${name}, ${at + 1} of ${study.value.patches.length}` : name;
});
const figures = useFigures(() => study.value.id);
function figure(): Taken | string | undefined {
  const { frame, arranged } = look;
  const { against, kind, gain, arrangement } = arranged;
  const use = seeing.use.value;
  if (!canEdit.value) return "Only editors take figures into the report.";
  return (
    frame.value &&
    figureOf({
      frame: frame.value.id,
      part: partInView(look.view.value, look.paneSize()),
      zoom: look.view.value.zoom,
      trim: true,
      // Over a boundary there is the one in sight.
      letters: look.letters.value.filter(
        (_, i) => arrangement !== "reveal" || i === look.inSight.value,
      ),
      light: look.light,
      use: use && { id: use.id, centre: seeing.centre.value },
      differs: arrangement === "difference" ? { against, kind, gain } : undefined,
      over: arrangement === "reveal" ? { against, at: look.boundary.value } : undefined,
    })
  );
}
const named = useNamedCalls(() => study.value.id);
const taking = useTaking(() => title.value, shown, figure, figures.take);
useLookKeys(look, {
  remark,
  taking,
  hold: (on) => (remarking.held.value = on),
  use: (by) => {
    const ids = ["", ...seeing.uses.value.filter((u) => !u.why_not).map((u) => u.id)];
    look.setUse(nextOf(ids, look.use.value, by, true));
  },
  lifeSize,
  call: (answer) => {
    const [of, patch] = [look.panes.value[look.active.value]?.contender.id, look.patch.value];
    if (canEdit.value && patch && of !== undefined) void named.give(patch.id, of, answer);
  },
});

const one = computed(() => look.inOneRoom.value);
const grid = computed(() => gridOf(one.value ? 1 : look.letters.value.length));
/** All stand over each other in place, so that taking turns moves and loads nothing. */
const stacked = computed(() => look.arranged.arrangement === "in place");

/** The same frame point under every pane's own pixels. */
function point(view: View, x: number, y: number, size: Size): void {
  readout.spot.value = toFrame(view, size, x, y);
}

const turns = useIntervalFn(look.turn, () => 1000 / Math.max(0.1, look.arranged.rate), {
  immediate: false,
});
watch(
  () => stacked.value && look.arranged.rate > 0,
  (on) => (on ? turns.resume() : turns.pause()),
  { immediate: true },
);
</script>

<template>
  <div class="look in-grid">
    <div v-if="!begun" class="waiting" />
    <LookBar
      v-else
      :look="look"
      :readout="readout"
      :seeing="seeing"
      :title="title"
      :taking="taking"
      @life="lifeSize"
      @screen="asking = 'screen'"
      @uses="asking = 'uses'"
    />
    <div
      ref="stage"
      class="panes in-grid"
      :style="{
        gridTemplateColumns: `repeat(${grid.columns}, minmax(0, 1fr))`,
        gridTemplateRows: `repeat(${grid.rows}, minmax(0, 1fr))`,
      }"
    >
      <template v-for="(pane, i) in look.panes.value" :key="i">
        <LookPane
          v-if="stacked || !one || i === look.active.value"
          ref="panes"
          :class="{ over: one, behind: stacked && i !== look.inSight.value }"
          :look="look"
          :readout="readout"
          :seeing="seeing"
          :pane="pane"
          :index="i"
          :remarking="remarking"
          :choices="begun ? columns : []"
          :calls="callsOf(named.calls.value, look.patch.value?.id, pane.contender.id)"
          @point="point"
          @drawn="seen"
          @remark="remarking.open.value = $event"
          @spot="remarking.pointed.value = $event"
        />
      </template>
    </div>
    <LookProfile v-if="look.line.value" :look="look" :readout="readout" :line="look.line.value" />
    <UsesDialog v-if="asking === 'uses'" v-model="asked" />
    <ScreenDialog v-if="asking === 'screen'" v-model="asked" @told="seeing.toLifeSize()" />
    <RemarkDialog
      v-if="begun"
      :study="study.id"
      :of="remarking.open.value"
      :columns="columns"
      :can-edit="canEdit"
      @close="remarking.open.value = undefined"
    />
  </div>
</template>

<style scoped>
.look {
  grid-template-rows: auto minmax(0, 1fr) auto;
  height: 100dvh;
}
/* As high as the bar that comes. */
.waiting {
  height: calc(var(--bar) + 1px);
}
.panes {
  min-height: 0;
}
.over {
  grid-area: 1 / 1;
}
.behind {
  visibility: hidden;
}
</style>
