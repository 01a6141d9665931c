<script setup lang="ts">
// A word with more behind it, by pointer and by keyboard.
defineProps<{ hint: string }>();
</script>

<template>
  <v-tooltip :text="hint" :aria-label="hint" :disabled="!hint" open-on-focus>
    <template #activator="{ props }">
      <span v-bind="props" :tabindex="hint ? 0 : undefined" class="hinted"><slot /></span>
    </template>
  </v-tooltip>
</template>
