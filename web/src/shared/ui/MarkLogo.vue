<template>
  <svg class="mark flex-0-0" viewBox="0 0 37 24" aria-hidden="true">
    <g fill="currentColor">
      <circle v-for="[x, y] in grains" :key="`${x}/${y}`" :cx="x" :cy="y" r="1.9" />
    </g>
  </svg>
</template>

<script setup lang="ts">
// Hail grains, from scattered to ordered.
const scattered = [
  [3, 6], [7.5, 13], [4, 19.5], [10.5, 4], [12, 10.5],
  [9.5, 17.5], [15.5, 6.5], [16.5, 13], [15, 20],
] as const; // prettier-ignore
const ordered = [22, 28, 34].flatMap((x) => [5, 12, 19].map((y) => [x, y] as const));
const grains = [...scattered, ...ordered];
</script>

<style scoped>
.mark {
  width: 34px;
  height: 22px;
}
</style>
