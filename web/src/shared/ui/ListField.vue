<script setup lang="ts">
// Several words in one field, with commas between.
defineProps<{ label: string }>();
const list = defineModel<string[]>({ required: true });

const split = (text: string): string[] =>
  text
    .split(",")
    .map((w) => w.trim())
    .filter(Boolean);
</script>

<template>
  <v-text-field
    :label="label"
    :model-value="list.join(', ')"
    placeholder="separated by commas"
    @change="list = split(($event.target as HTMLInputElement).value)"
  />
</template>
