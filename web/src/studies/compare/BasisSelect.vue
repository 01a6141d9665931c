<script setup lang="ts">
// Which set of readings is shown, where the study has a matched one beside that of outputs as made.
import QuietSelect from "@/shared/ui/QuietSelect.vue";
import { useStudyContext } from "@/studies/shared/useStudyContext";

const { study } = useStudyContext();
const chosen = defineModel<string>({ required: true });
</script>

<template>
  <QuietSelect
    v-if="study.matched"
    v-model="chosen"
    label="Readings"
    :items="[
      { value: '', title: 'as made' },
      { value: 'matched', title: study.matched },
    ]"
  />
</template>
