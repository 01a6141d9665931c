<script setup lang="ts" generic="T extends string">
// One of a few, as words beside each other; the chosen one is underlined.
defineProps<{ options: readonly (readonly [T, string])[]; label: string }>();
const chosen = defineModel<T>({ required: true });
</script>

<template>
  <span class="choice" role="group" :aria-label="label">
    <button
      v-for="[value, words] in options"
      :key="value"
      type="button"
      :aria-pressed="chosen === value"
      @click="chosen = value"
    >
      {{ words }}
    </button>
  </span>
</template>
