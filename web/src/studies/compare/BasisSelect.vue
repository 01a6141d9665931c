<script setup lang="ts">
// Which set of readings is shown, where the study has a matched one beside that of outputs as made.
import { useStudyContext } from "@/studies/shared/useStudyContext";

const { study } = useStudyContext();
const chosen = defineModel<string>({ required: true });
</script>

<template>
  <label v-if="study.matched">
    Readings
    <select v-model="chosen" class="quiet-select">
      <option value="">as made</option>
      <option value="matched">{{ study.matched }}</option>
    </select>
  </label>
</template>
