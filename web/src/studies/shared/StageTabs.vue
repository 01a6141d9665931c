<script setup lang="ts">
// The parts of a stage, as tabs that are addresses.
defineProps<{
  label: string;
  tabs: readonly { to: string; title: string; note?: string; unfair?: boolean }[];
}>();
</script>

<template>
  <v-tabs class="stage-tabs" :aria-label="label" height="32">
    <v-tab v-for="tab in tabs" :key="tab.to" :to="tab.to">
      {{ tab.title
      }}<span v-if="tab.note" class="note" :class="tab.unfair ? 'rowan' : 'soft'">{{
        tab.note
      }}</span>
    </v-tab>
  </v-tabs>
</template>

<style scoped>
.note {
  margin-left: 7px;
}
</style>
