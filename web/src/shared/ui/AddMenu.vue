<script setup lang="ts">
// Adds one of several kinds to an ordered list.
defineProps<{ label: string; kinds: readonly { id: string; title: string }[] }>();
const emit = defineEmits<{ add: [id: string] }>();
</script>

<template>
  <v-menu>
    <template #activator="{ props }">
      <v-btn v-bind="props" height="30">{{ label }}</v-btn>
    </template>
    <v-list :aria-label="label">
      <v-list-item v-for="k in kinds" :key="k.id" :title="k.title" @click="emit('add', k.id)" />
    </v-list>
  </v-menu>
</template>
