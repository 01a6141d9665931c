<script setup lang="ts">
// One contender in one use, on one frame: where it differs as it is seen, and both sides of the
// place where most.
import { computed } from "vue";

import type { Shape } from "@/api/client";
import { useAddress } from "@/shared/lib/useAddress";
import ChoiceBar from "@/shared/ui/ChoiceBar.vue";
import QuietSelect from "@/shared/ui/QuietSelect.vue";
import EvidenceSides from "@/studies/compare/questions/EvidenceSides.vue";
import { evidenceAddress } from "@/studies/compare/questions/queries";
import { shareText } from "@/studies/compare/questions/questions";

const props = defineProps<{
  studyId: number;
  found: Shape["VisibilityFoundOut"];
  chosen: string;
}>();
const { inAddress } = useAddress();
const map = inAddress("map", () => "map");
const parts = computed(() => props.chosen.split("/"));
const frameOf = inAddress("of", () => parts.value[2] ?? "");
const frames = computed(() =>
  props.found.frames
    .filter((f) => props.found.cells.some((c) => c.frame === f.id && c.letter === parts.value[0]))
    .map((f) => ({ value: String(f.id), title: f.name })),
);
const cell = computed(() =>
  props.found.cells.find(
    (c) =>
      c.letter === parts.value[0] &&
      c.use === parts.value[1] &&
      String(c.frame) === (frameOf.value || parts.value[2]),
  ),
);
const use = computed(() => props.found.uses.find((u) => u.id === parts.value[1]));
const address = (name: string) => evidenceAddress(props.studyId, cell.value?.key ?? "", name);
const MAPS = [
  { value: "map", title: "CIEDE2000 as seen" },
  { value: "flip", title: "FLIP" },
] as const;
const shownMap = computed(() => {
  const flip = map.value === "flip";
  return {
    src: address(flip ? "flip" : "map"),
    alt: `Where ${cell.value?.letter} differs from ${props.found.against} as ${use.value?.short}`,
    caption: flip
      ? "White is where one flickers most into the other."
      : "The deeper the red, the more is seen; full at 6 CIEDE2000.",
  };
});
const places = computed(() =>
  [
    { name: "one", letter: props.found.against },
    { name: "two", letter: cell.value?.letter ?? "" },
  ].map(({ name, letter }) => ({
    src: address(name),
    alt: `${letter}, where most is seen`,
    caption: `${letter}, where most is seen, pixel for pixel of the use`,
  })),
);
</script>

<template>
  <section v-if="cell && use" class="block" :aria-label="`${cell.letter} as ${use.short}`">
    <div class="block-head middle">
      <h2>{{ cell.letter }} against {{ found.against }}, as {{ use.name }}</h2>
      <span class="end row middle ga-2">
        <QuietSelect v-if="frames.length > 1" v-model="frameOf" label="Frame" :items="frames" />
        <ChoiceBar v-model="map" label="Map" hide-label :items="MAPS" />
      </span>
    </div>
    <p v-if="cell.problem" class="rowan">{{ cell.problem }}</p>
    <template v-else>
      <p class="py-1">
        <template v-if="cell.same">Both are the same to the last code in this use.</template>
        <template v-else>
          Differs by 1 CIEDE2000 or more in
          <span class="mono">{{ shareText(cell.share) }}</span> of the picture, by 3 in
          <span class="mono">{{ shareText(cell.strong) }}</span>; most,
          <span class="mono">{{ cell.most.toFixed(1) }}</span>, at the place shown. Mean of FLIP
          <span class="mono">{{ cell.flip.toFixed(3) }}</span>.
        </template>
      </p>
      <EvidenceSides :map="shownMap" :places="places" />
    </template>
  </section>
</template>
