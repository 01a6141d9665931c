<script setup lang="ts">
// One frame at pixel level: pan, magnify, read codes; its truth a key press away.
import { computed, onBeforeUnmount, onMounted, ref, useTemplateRef, watch } from "vue";

import type { Picture } from "@/api/types";
import { useFrameView } from "./useFrameView";
import { usePanZoom } from "./usePanZoom";
import { percent, STEPS, toFrame } from "./geometry";
import ChoiceBar from "@/shared/ui/ChoiceBar.vue";
import TileCanvas from "./TileCanvas.vue";

const props = defineProps<{ picture: Picture; truth: Picture | null; label: string }>();
const ground = useTemplateRef<HTMLElement>("ground");
const tiles = useTemplateRef<InstanceType<typeof TileCanvas>>("tiles");
const { view, settle, whole, zoomTo, zoom, pan } = useFrameView(
  () => props.picture,
  () => canvas.value,
);
const { canvas, keyed, wheel, on } = usePanZoom(ground, { pan, zoom, whole, hover });
watch([canvas, () => props.picture.width], settle, { immediate: true });
const flicking = ref(false);
const flickable = computed(
  () => props.truth?.state === "ready" && props.truth.width === props.picture.width,
);
const shown = computed(() =>
  flicking.value && flickable.value && props.truth ? props.truth : props.picture,
);
const WHOLE = 0;
const steps = [
  { value: WHOLE, title: "Whole" },
  ...STEPS.map((step) => ({ value: step as number, title: percent(step) })),
];
const magnification = computed({
  get: () => view.value.zoom,
  set: (to) => (to === WHOLE ? whole() : zoomTo(to)),
});
const readout = ref("");

function hover(x: number, y: number): void {
  const at = toFrame(view.value, canvas.value, x, y);
  const inside =
    at.x >= 0 && at.y >= 0 && at.x < props.picture.width && at.y < props.picture.height;
  const codes = inside ? tiles.value?.codesAt(x, y, 1) : null;
  readout.value = codes
    ? `${Math.floor(at.x)}, ${Math.floor(at.y)} px: ${codes.map((c) => Math.round(c)).join(" ")}`
    : "";
}

function key(event: KeyboardEvent): void {
  if (keyed(event) || event.key.toLowerCase() !== "t" || event.ctrlKey || event.metaKey) return;
  flicking.value = true;
  event.preventDefault();
}

function released(event: KeyboardEvent): void {
  if (event.key.toLowerCase() === "t") flicking.value = false;
}
onMounted(() => window.addEventListener("keyup", released));
onBeforeUnmount(() => window.removeEventListener("keyup", released));
</script>

<template>
  <section class="viewer in-grid shrinks" aria-label="The frame at pixel level" @keydown="key">
    <header class="d-flex flex-wrap align-center pb-2">
      <ChoiceBar v-model="magnification" label="Magnification" :items="steps" />
      <TextAction
        v-if="flickable"
        @pointerdown="flicking = true"
        @pointerup="flicking = false"
        @pointerleave="flicking = false"
      >
        Hold to show the truth
      </TextAction>
      <span class="soft"
        >Drag, wheel; arrows, + and −, 0<template v-if="flickable">, hold T</template></span
      >
      <output class="mono end">{{ readout || percent(view.zoom) }}</output>
    </header>
    <div
      ref="ground"
      class="ground on-surround cursor-grab still"
      tabindex="0"
      role="application"
      :aria-label="`${label}: arrows move, plus and minus magnify, 0 shows the whole`"
      v-on="on"
      @pointerleave="readout = ''"
      @wheel.prevent="wheel"
    >
      <TileCanvas
        v-if="view.zoom && picture.state === 'ready'"
        ref="tiles"
        :picture="shown"
        :view="view"
        :label="shown === truth ? `${label}, truth` : label"
      />
    </div>
  </section>
</template>

<style scoped>
.viewer {
  grid-template: auto minmax(0, 1fr) / minmax(0, 1fr);
}
header {
  gap: 2px 22px;
}
.ground {
  height: max(360px, calc(100dvh - 320px));
}
</style>
