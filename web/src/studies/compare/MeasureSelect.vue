<script setup lang="ts">
import { computed } from "vue";

import type { Measure } from "@/api/types";
import QuietSelect from "@/shared/ui/QuietSelect.vue";

const props = withDefaults(
  defineProps<{ measures: readonly Measure[]; label?: string; main?: boolean }>(),
  { label: "Measure", main: false },
);
const chosen = defineModel<string>({ required: true });
const items = computed(() => [
  ...(props.main ? [{ value: "", title: "by patch type" }] : []),
  ...props.measures.map((m) => ({ value: m.id, title: m.name })),
]);
</script>

<template>
  <QuietSelect v-model="chosen" :label="label" :items="items" />
</template>
