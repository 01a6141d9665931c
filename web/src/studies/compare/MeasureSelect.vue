<script setup lang="ts">
import type { Measure } from "@/api/queries";

defineProps<{ measures: readonly Measure[] }>();
const chosen = defineModel<string>({ required: true });
</script>

<template>
  <label>
    Shown
    <select v-model="chosen" class="quiet-select">
      <option value="">role's own</option>
      <option v-for="m in measures" :key="m.id" :value="m.id">{{ m.name }}</option>
    </select>
  </label>
</template>
