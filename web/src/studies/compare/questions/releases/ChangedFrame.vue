<script setup lang="ts">
// One frame by two releases: where it changed, and both sides of the place where most did.
import { computed } from "vue";

import type { Shape } from "@/api/client";
import EvidenceSides from "@/studies/compare/questions/EvidenceSides.vue";
import { evidenceAddress } from "@/studies/compare/questions/queries";

import { changeText } from "./releases";

const props = defineProps<{
  studyId: number;
  cell: Shape["ReleaseCellOut"];
  earlier: string;
  later: string;
}>();
const address = (name: string) => evidenceAddress(props.studyId, props.cell.key, name);
const map = computed(() => ({
  src: address("map"),
  alt: `Where ${props.later} differs from ${props.earlier}, ${props.cell.name}`,
  caption: "The deeper the red, the more changed; full at 16 levels of 255.",
}));
const places = computed(() =>
  (["earlier", "later"] as const).map((side) => ({
    src: address(side),
    alt: `${props[side]}, where most changed, ${props.cell.name}`,
    caption: `${props[side]}, where most changed, pixel for pixel`,
  })),
);
</script>

<template>
  <section class="block" :aria-label="cell.name">
    <div class="block-head middle">
      <h3>{{ cell.name }}</h3>
      <span class="end"
        ><router-link
          :to="{
            path: `/studies/${studyId}/look`,
            query: { frame: cell.frame, panes: `${earlier},${later}` },
          }"
          >Look at both</router-link
        ></span
      >
    </div>
    <p class="py-1" :class="{ rowan: cell.problem, soft: cell.same }">{{ changeText(cell) }}</p>
    <EvidenceSides v-if="!cell.same && !cell.problem" :map="map" :places="places" />
  </section>
</template>
