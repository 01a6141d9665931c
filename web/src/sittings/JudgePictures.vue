<script setup lang="ts">
// The pictures of one place, on neutral grey: beside each other where there is room, else one
// where the other was. A held key shows another one in the first one's place, to the pixel.
import { useDevicePixelRatio, useElementSize, useEventListener } from "@vueuse/core";
import { computed, ref } from "vue";

import type { Shape } from "@/api/client";
import ChoiceBar from "@/shared/ui/ChoiceBar.vue";

import { columnOf, laid, type Which } from "./stage";
import { useHeld } from "./useHeld";
import { useRow } from "./useRow";

const props = defineProps<{
  /** Of its pictures, the one for comparison last. */
  urls: readonly string[];
  shown: Shape["SeatPlaceOut"] | undefined;
  kind: Shape["SeatOut"]["kind"];
}>();
const emit = defineEmits<{ loaded: []; say: [answer: Record<string, unknown>] }>();
const MARGIN = 24;
const stage = ref<HTMLElement>();
const room = useElementSize(stage);
const { pixelRatio } = useDevicePixelRatio();
const front = ref(0);

const count = computed(() => props.shown?.pictures ?? 0);
/** A single picture has the one for comparison beside it, where there is room. */
const alongside = computed(() => props.kind === "single" && !!props.shown?.beside);
const size = computed(() => {
  const there = {
    width: Math.max(80, room.width.value - MARGIN),
    height: Math.max(80, room.height.value - MARGIN),
  };
  const many = (count.value || 1) + (alongside.value ? 1 : 0);
  return laid(props.shown ?? { width: 1, height: 1 }, many, there, pixelRatio.value);
});
const all = computed<Which[]>(() => [
  ...Array(count.value).keys(),
  ...(props.shown?.beside ? (["beside"] as const) : []),
]);
const other = computed<Which | undefined>(() =>
  props.kind === "pairs" ? (size.value.inTurn ? 1 - front.value : 1) : undefined,
);
const { held, hold, release } = useHeld({
  " ": () => other.value,
  t: () => (props.shown?.beside ? "beside" : undefined),
});
const px = computed(() => ({ width: `${size.value.width}px`, height: `${size.value.height}px` }));
const grid = computed(() => `repeat(${size.value.columns}, ${size.value.width}px)`);
const nameOf = (which: Which): string => {
  if (which === "beside") return "For comparison";
  return props.kind === "pairs" ? (which ? "Right" : "Left") : `Picture ${which + 1}`;
};
const fronts = [
  { value: 0, title: "Left" },
  { value: 1, title: "Right" },
];
const column = (which: Which) =>
  columnOf(which, held.value, front.value, size.value, alongside.value ? 2 : undefined);
const styleOf = (which: Which) => ({ ...px.value, gridColumn: String(column(which) ?? 1) });

const row = useRow(
  () => count.value,
  (order) => emit("say", { order }),
);
useEventListener(window, "keydown", (event: KeyboardEvent) => {
  const at = Number(event.key) - 1;
  if (props.kind === "order" && !event.repeat && all.value.includes(at)) row.rank(at);
});
const rankOf = (which: Which): string => {
  const at = row.ranked.value.indexOf(which as number);
  return at < 0 ? "Next best" : `${at + 1}`;
};
/** Where a picture of a row stands, once it was dragged. */
const placeOf = (which: Which) => ({
  ...px.value,
  order: row.standing.value.indexOf(which as number),
});
const dragged = (which: Which): void => {
  if (which !== "beside") row.dragged.value = which;
};
</script>

<template>
  <div ref="stage" class="stage" data-test="pictures">
    <div v-if="shown" class="pictures" :style="{ gridTemplateColumns: grid }">
      <figure
        v-for="which in all"
        v-show="column(which)"
        :key="which"
        :style="kind === 'order' && which !== 'beside' ? placeOf(which) : styleOf(which)"
        :draggable="kind === 'order' && which !== 'beside'"
        @dragstart="dragged(which)"
        @dragover.prevent
        @drop.prevent="which !== 'beside' && row.drop(which)"
      >
        <img
          :src="urls[which === 'beside' ? count : which]"
          :alt="nameOf(which)"
          :style="px"
          :class="{ whole: size.whole }"
          draggable="false"
          @load="which !== 'beside' && emit('loaded')"
        />
        <figcaption v-if="alongside && !size.inTurn && held === undefined" class="small">
          {{ which === "beside" ? "For comparison" : "To be graded" }}
        </figcaption>
        <v-btn
          v-if="kind === 'order' && which !== 'beside'"
          class="rank"
          :aria-label="`${nameOf(which)}: ${rankOf(which)}`"
          :aria-pressed="row.ranked.value.includes(which)"
          @click="row.rank(which)"
          >{{ rankOf(which) }}</v-btn
        >
      </figure>
    </div>
    <p v-else role="status">Coming …</p>
    <div v-if="shown && (size.inTurn || shown.beside || row.moved.value)" class="turn d-flex ga-2">
      <v-btn v-if="row.moved.value" @click="row.done">As they stand, the best first</v-btn>
      <ChoiceBar
        v-if="size.inTurn && kind === 'pairs'"
        v-model="front"
        label="Which picture is shown"
        hide-label
        :items="fronts"
      />
      <v-btn
        v-if="shown.beside"
        @pointerdown="hold('beside')"
        @pointerup="release"
        @pointerleave="release"
        >Hold to compare (key T)</v-btn
      >
    </div>
  </div>
</template>

<style scoped>
.stage {
  flex: 1;
  min-height: 120px;
  background: var(--surround);
  display: grid;
  place-items: center;
  align-content: center;
  position: relative;
  overflow: hidden;
  user-select: none;
}
.pictures {
  display: grid;
  gap: 2px;
  grid-auto-flow: dense;
}
figure {
  margin: 0;
  position: relative;
  grid-row: auto;
}
img {
  display: block;
}
figcaption {
  color: #fff;
  text-align: center;
}
img.whole {
  image-rendering: pixelated;
}
.rank,
.turn {
  background: var(--sheet);
}
.rank {
  position: absolute;
  left: 0;
  bottom: 0;
}
.turn {
  margin-top: 8px;
}
p {
  color: #fff;
}
</style>
