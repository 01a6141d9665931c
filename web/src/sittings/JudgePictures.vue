<script setup lang="ts">
// The pictures of one place, on neutral grey: beside each other where there is room, else one
// where the other was. A held key shows another one in the first one's place, to the pixel.
import { useDevicePixelRatio, useElementSize, useEventListener } from "@vueuse/core";
import { computed, ref } from "vue";

import type { Shape } from "@/api/client";
import ChoiceBar from "@/shared/ui/ChoiceBar.vue";

import { columnOf, laid, type Which } from "./stage";
import { useHeld } from "./useHeld";

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
const order = ref<number[]>([]);

const count = computed(() => props.shown?.pictures ?? 0);
const size = computed(() => {
  const there = {
    width: Math.max(80, room.width.value - MARGIN),
    height: Math.max(80, room.height.value - MARGIN),
  };
  return laid(props.shown ?? { width: 1, height: 1 }, count.value || 1, there, pixelRatio.value);
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
const column = (which: Which) => columnOf(which, held.value, front.value, size.value);
const styleOf = (which: Which) => ({ ...px.value, gridColumn: String(column(which) ?? 1) });

/** Put in order by choosing the best first; choosing again takes one out of the order. */
function rank(which: Which): void {
  if (which === "beside") return;
  const out = order.value.includes(which);
  order.value = out ? order.value.filter((o) => o !== which) : [...order.value, which];
  if (order.value.length === count.value) emit("say", { order: order.value });
}
useEventListener(window, "keydown", (event: KeyboardEvent) => {
  const at = Number(event.key) - 1;
  if (props.kind === "order" && !event.repeat && all.value.includes(at)) rank(at);
});
const rankOf = (which: Which): string => {
  const at = order.value.indexOf(which as number);
  return at < 0 ? "Next best" : `${at + 1}`;
};
</script>

<template>
  <div ref="stage" class="stage" data-test="pictures">
    <div v-if="shown" class="pictures" :style="{ gridTemplateColumns: grid }">
      <figure v-for="which in all" v-show="column(which)" :key="which" :style="styleOf(which)">
        <img
          :src="urls[which === 'beside' ? count : which]"
          :alt="nameOf(which)"
          :style="px"
          :class="{ whole: size.whole }"
          draggable="false"
          @load="which !== 'beside' && emit('loaded')"
        />
        <v-btn
          v-if="kind === 'order' && which !== 'beside'"
          class="rank"
          :aria-label="`${nameOf(which)}: ${rankOf(which)}`"
          :aria-pressed="order.includes(which)"
          @click="rank(which)"
          >{{ rankOf(which) }}</v-btn
        >
      </figure>
    </div>
    <p v-else role="status">Coming …</p>
    <div v-if="shown && (size.inTurn || shown.beside)" class="turn d-flex ga-2">
      <ChoiceBar
        v-if="size.inTurn"
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
