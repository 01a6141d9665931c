<script setup lang="ts">
// One crop of the wall with its letter and reading; a link into the close look at that spot. Only
// what is in sight, or nearly, is drawn.
import { computed, useTemplateRef } from "vue";

import type { Contender, Output } from "@/api/types";
import { lightTold } from "@/studies/compare/lights";
import { useCropDrawing } from "@/studies/compare/useCropDrawing";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import type { Light } from "@/viewer/light";
import TileCanvas from "@/viewer/TileCanvas.vue";
import {
  calledBy,
  callsBrief,
  callsTold,
  type NamedAnswer,
  type NamedCall,
} from "@/studies/shared/namedCalls";
import LetterBox from "@/shared/ui/LetterBox.vue";
import { fixed, half, placed } from "@/shared/lib/words";

import type { Spot } from "./spots";
import { useNear } from "./useNear";
import type { Told } from "./useWall";

const props = defineProps<{
  spot: Spot;
  contender: Contender;
  output: Output | undefined;
  told: Told;
  zoom: number;
  light: Light;
  chosen: boolean;
  /** Calls of it with names seen, one's own first. */
  calls: readonly NamedCall[];
}>();
const emit = defineEmits<{ choose: []; call: [answer: NamedAnswer] }>();
const cell = useTemplateRef<HTMLElement>("cell");
const near = useNear(cell);
const { study } = useStudyContext();
const view = computed(() => ({
  x: props.spot.x + props.spot.w / 2,
  y: props.spot.y + props.spot.h / 2,
  zoom: props.zoom,
}));
// No larger than the patch itself, whatever room there is.
const size = computed(() => {
  const ratio = props.zoom / (window.devicePixelRatio || 1);
  return {
    width: `min(100%, ${Math.round(props.spot.w * ratio)}px)`,
    height: `min(100%, ${Math.round(props.spot.h * ratio)}px)`,
  };
});
const crop = useTemplateRef<HTMLElement>("crop");
const drawing = useCropDrawing(crop, () => ({
  output: props.output,
  view: view.value,
  light: props.light,
}));
const to = computed(() => ({
  path: `/studies/${study.value.id}/look`,
  query: {
    ...(props.spot.patch === undefined
      ? { frame: props.spot.frame, x: view.value.x, y: view.value.y }
      : { patch: props.spot.patch }),
    panes: props.contender.letter,
    zoom: props.zoom,
    ...lightTold(props.light),
  },
}));
const reading = computed(() => props.told.readings.find((r) => r.contender === props.contender.id));
const value = computed(() => {
  const r = reading.value;
  const { measure } = props.told;
  if (!r || r.value === null || !measure) return null;
  return {
    text: fixed(r.value, measure.digits),
    half: fixed(half(r), measure.digits),
    rank: placed(r),
  };
});
const why = computed(() => {
  const o = props.output;
  if (!o) return props.contender.kind === "truth" ? "no truth for this frame" : "no output yet";
  if (o.state !== "ready") return o.problem || (o.state === "waiting" ? "being taken in" : o.state);
  if (props.spot.patch === undefined) return "";
  return reading.value ? reading.value.reason : "being measured";
});

const told = computed(() => callsTold(props.calls));

function pressed(event: KeyboardEvent): void {
  const answer = calledBy(event);
  if (!answer) return;
  event.preventDefault();
  emit("call", answer);
}

/** A click with a key held, or a space, chooses instead of leading on. */
function clicked(event: MouseEvent): void {
  if (!event.ctrlKey && !event.metaKey && !event.shiftKey) return;
  event.preventDefault();
  event.stopPropagation();
  emit("choose");
}
</script>

<template>
  <div ref="cell" class="cell hair-below shrinks py-2">
    <router-link
      v-if="output?.state === 'ready' && output.picture"
      :to="to"
      class="ground in-grid pa-2 on-surround"
      :aria-label="`Look closer: ${spot.title}, ${contender.letter}${chosen ? ', chosen' : ''}`"
      :aria-description="told || undefined"
      @click.capture="clicked"
      @keydown.capture="pressed"
      @keydown.space.prevent="emit('choose')"
    >
      <span v-if="near" ref="crop" class="crop d-block" :style="size">
        <TileCanvas
          v-if="drawing"
          v-bind="drawing"
          :label="`${spot.title} of ${contender.letter}`"
        />
      </span>
    </router-link>
    <div v-else class="ground none in-grid pa-2 on-surround soft small text-center">{{ why }}</div>
    <div class="reading d-flex ga-2 pt-1 small text-no-wrap align-center" :class="{ chosen }">
      <LetterBox class="mini" :letter="contender.letter" />
      <template v-if="value">
        <span class="mono"
          >{{ value.text }} <span class="soft">±{{ value.half }}</span></span
        >
        <span class="soft end">{{ value.rank }}</span>
      </template>
      <span v-else-if="output?.state === 'ready'" class="soft reason text-truncate">{{ why }}</span>
    </div>
    <p v-if="calls.length" class="small soft text-truncate" :title="told">
      {{ callsBrief(calls) }}
    </p>
  </div>
</template>

<style scoped>
.ground {
  grid-template: minmax(0, 1fr) / minmax(0, 1fr);
  place-items: center;
  height: var(--crop);
}
.none {
  background: none;
  border: 1px solid var(--hair);
}
.reading {
  height: 24px;
}
.mini {
  transform: scale(0.85);
}
.chosen {
  box-shadow: inset 0 -2px 0 var(--ink);
}
</style>
