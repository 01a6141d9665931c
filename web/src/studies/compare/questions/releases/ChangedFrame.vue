<script setup lang="ts">
// One frame by two releases: where it changed, and both sides of the place where most did.
import type { Shape } from "@/api/client";
import { evidenceAddress } from "@/studies/compare/questions/queries";

import { changeText } from "./releases";

defineProps<{
  studyId: number;
  cell: Shape["ReleaseCellOut"];
  earlier: string;
  later: string;
}>();
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
    <div v-if="!cell.same && !cell.problem" class="sides">
      <figure>
        <img
          loading="lazy"
          :src="evidenceAddress(studyId, cell.key, 'map')"
          :alt="`Where ${later} differs from ${earlier}, ${cell.name}`"
        />
        <figcaption class="soft small">
          The deeper the red, the more changed; full at 16 levels of 255.
        </figcaption>
      </figure>
      <div class="places">
        <figure v-for="side in ['earlier', 'later'] as const" :key="side">
          <img
            loading="lazy"
            :src="evidenceAddress(studyId, cell.key, side)"
            :alt="`${side === 'earlier' ? earlier : later}, where most changed, ${cell.name}`"
          />
          <figcaption class="soft small">
            {{ side === "earlier" ? earlier : later }}, where most changed, pixel for pixel
          </figcaption>
        </figure>
      </div>
    </div>
  </section>
</template>

<style scoped>
.sides {
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(0, 1fr);
  gap: 16px;
  align-items: start;
}
.places {
  display: grid;
  gap: 12px;
}
figure {
  margin: 0;
}
img {
  display: block;
  max-width: 100%;
  background: var(--surround, #777);
}
@media (max-width: 720px) {
  .sides {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
