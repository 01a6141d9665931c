<script setup lang="ts">
// A spot's name, type and frame, and which measure is told of it.
import type { Spot } from "./spots";
import type { Told } from "./useWall";

defineProps<{ spot: Spot; told: Told }>();
</script>

<template>
  <h3 class="text-truncate">{{ spot.title }}</h3>
  <p class="soft small">{{ spot.sub }}</p>
  <p v-if="told.measure && told.readings.length" class="soft shown mt-1 small">
    {{ told.measure.name }}<template v-if="told.measure.unit">, {{ told.measure.unit }}</template>
  </p>
</template>
