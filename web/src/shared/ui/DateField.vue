<script setup lang="ts">
// A day as ISO 8601, shown as 27 Nov 2026 whatever the browser's country.
import { computed } from "vue";

import { day } from "@/shared/lib/formats";

defineProps<{ label: string; disabled?: boolean }>();
const iso = defineModel<string | null>({ required: true });
const date = computed({
  get: () => (iso.value ? new Date(`${iso.value}T12:00`) : null),
  set: (to: unknown) => {
    iso.value =
      to instanceof Date
        ? [to.getFullYear(), two(to.getMonth() + 1), two(to.getDate())].join("-")
        : null;
  },
});
const two = (n: number): string => String(n).padStart(2, "0");
const shown = (value: unknown): string => (value instanceof Date ? day(value.toISOString()) : "");
</script>

<template>
  <v-date-input
    v-model="date"
    :label="label"
    :disabled="disabled"
    :display-format="shown"
    input-format="yyyy-mm-dd"
    placeholder="2026-11-27"
    prepend-icon=""
    hide-actions
    clearable
  />
</template>
