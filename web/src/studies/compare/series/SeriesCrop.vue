<script setup lang="ts">
// A patch as one body recorded it at one ISO; a link into the close look.
import { computed, useTemplateRef } from "vue";

import type { Contender, Frame, Output, Patch } from "@/api/types";
import { lightTold } from "@/studies/compare/lights";
import { useNear } from "@/studies/compare/wall/useNear";
import { useCropDrawing } from "@/studies/compare/useCropDrawing";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import type { Light } from "@/viewer/light";
import TileCanvas from "@/viewer/TileCanvas.vue";

const props = defineProps<{
  patch: Patch;
  frame: Frame;
  contender: Contender;
  output: Output | undefined;
  zoom: number;
  light: Light;
  caption: string;
}>();
const { study } = useStudyContext();
const cell = useTemplateRef<HTMLElement>("cell");
const near = useNear(cell);
const crop = useTemplateRef<HTMLElement>("crop");
const view = computed(() => ({
  x: props.patch.x + props.patch.w / 2,
  y: props.patch.y + props.patch.h / 2,
  zoom: props.zoom,
}));
const drawing = useCropDrawing(crop, () => ({
  output: props.output,
  view: view.value,
  light: props.light,
}));
const to = computed(() => ({
  path: `/studies/${study.value.id}/look`,
  query: {
    frame: props.frame.id,
    x: view.value.x,
    y: view.value.y,
    panes: props.contender.letter,
    zoom: props.zoom,
    ...lightTold(props.light),
  },
}));
</script>

<template>
  <div ref="cell" class="crop-cell">
    <router-link
      v-if="output?.state === 'ready' && output.picture"
      :to="to"
      class="ground on-surround d-block pa-1"
      :aria-label="`Look closer: ${patch.name}, ${contender.title}, ${caption}`"
    >
      <span v-if="near" ref="crop" class="d-block fill">
        <TileCanvas v-if="drawing" v-bind="drawing" :label="`${contender.title}, ${caption}`" />
      </span>
    </router-link>
    <div v-else class="ground soft small pa-2">no shot</div>
    <p class="mono small">{{ caption }}</p>
  </div>
</template>

<style scoped>
.ground {
  height: 116px;
}
.fill {
  height: 100%;
}
</style>
