<script setup lang="ts">
// Where two pictures differ, and both sides of the place where most.
interface Shown {
  src: string;
  /** What is seen, for those who do not see it. */
  alt: string;
  caption: string;
}

defineProps<{ map: Shown; places: readonly Shown[] }>();
</script>

<template>
  <div class="sides">
    <figure>
      <img loading="lazy" :src="map.src" :alt="map.alt" />
      <figcaption class="soft small">{{ map.caption }}</figcaption>
    </figure>
    <div class="places">
      <figure v-for="place in places" :key="place.alt">
        <img loading="lazy" :src="place.src" :alt="place.alt" />
        <figcaption class="soft small">{{ place.caption }}</figcaption>
      </figure>
    </div>
  </div>
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
