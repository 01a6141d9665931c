<script setup lang="ts">
// One crop of the wall with its reading; a link into the close look at that spot.
import { computed } from "vue";

import type { Contender, Measure, Output, Patch, Reading } from "@/api/types";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { type Light, lightLayer } from "@/viewer/light";
import TileCanvas from "@/viewer/TileCanvas.vue";
import { lightTold } from "@/studies/compare/lights";
import { fixed, half, placed } from "@/shared/lib/words";

const props = defineProps<{
  patch: Patch;
  contender: Contender;
  output: Output | undefined;
  reading: Reading | undefined;
  measure: Measure | undefined;
  zoom: number;
  light: Light;
}>();
const layer = computed(() => {
  const o = props.output;
  return o?.picture ? lightLayer(o.picture.id, props.light, o.tone) : null;
});
const { study } = useStudyContext();
const view = computed(() => ({
  x: props.patch.x + props.patch.w / 2,
  y: props.patch.y + props.patch.h / 2,
  zoom: props.zoom,
}));
// No larger than the patch itself, whatever room there is.
const size = computed(() => {
  const ratio = props.zoom / (window.devicePixelRatio || 1);
  return {
    width: `min(100%, ${Math.round(props.patch.w * ratio)}px)`,
    height: `min(100%, ${Math.round(props.patch.h * ratio)}px)`,
  };
});
const to = computed(() => ({
  path: `/studies/${study.value.id}/look`,
  query: {
    patch: props.patch.id,
    panes: props.contender.letter,
    zoom: props.zoom,
    ...lightTold(props.light),
  },
}));
const value = computed(() => {
  const r = props.reading;
  if (!r || r.value === null || !props.measure) return null;
  const digits = props.measure.digits;
  return { text: fixed(r.value, digits), half: fixed(half(r), digits), rank: placed(r) };
});
const why = computed(() => {
  const o = props.output;
  if (!o) return props.contender.kind === "truth" ? "no truth for this frame" : "no output yet";
  if (o.state !== "ready") return o.problem || (o.state === "waiting" ? "being taken in" : o.state);
  return props.reading ? props.reading.reason : "being measured";
});
</script>

<template>
  <div class="cell hair-below shrinks py-2">
    <router-link
      v-if="output?.state === 'ready' && output.picture"
      :to="to"
      class="ground in-grid pa-2 on-surround"
      :aria-label="`Look closer: ${patch.name}, ${contender.letter}`"
    >
      <span class="crop d-block" :style="size">
        <TileCanvas
          :picture="output.picture"
          :mapping="output.lineup"
          :view="view"
          :layer="layer"
          :label="`${patch.name} of ${contender.letter}`"
        />
      </span>
    </router-link>
    <div v-else class="ground none in-grid pa-2 on-surround soft small text-center">{{ why }}</div>
    <div v-if="value" class="reading d-flex justify-space-between ga-2 pt-1 small text-no-wrap">
      <span class="mono"
        >{{ value.text }} <span class="soft">±{{ value.half }}</span></span
      >
      <span class="soft">{{ value.rank }}</span>
    </div>
    <p v-else-if="output?.state === 'ready'" class="soft reason small pt-1">{{ why }}</p>
  </div>
</template>

<style scoped>
.ground {
  place-items: center;
  height: clamp(150px, 18.6vh, 420px);
}
.none {
  background: none;
  border: 1px solid var(--hair);
}
.reading {
  height: 22px;
}
</style>
