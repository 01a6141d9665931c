<script setup lang="ts" generic="T extends string | number | null | undefined">
// A choice in a row of tools: its label stands inside, before what is chosen.
defineProps<{
  label: string;
  items: readonly { value: NoInfer<T> | string | number | null; title: string }[];
}>();
const chosen = defineModel<T>();
</script>

<template>
  <v-select
    class="quiet"
    :label="label"
    :prefix="label"
    :items="items"
    :model-value="chosen as never"
    hide-details
    @update:model-value="chosen = $event as T"
  />
</template>
