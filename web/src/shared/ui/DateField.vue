<script setup lang="ts">
// A day as ISO 8601, shown as 27 Nov 2026 whatever the browser's country; typed in either form, or
// taken from a calendar.
import { mdiCalendar } from "@mdi/js";
import { computed, ref } from "vue";

import { day, isoDay } from "@/shared/lib/formats";

const props = defineProps<{ label: string; disabled?: boolean }>();
const iso = defineModel<string | null>({ required: true });
const open = ref(false);
const shown = computed(() => (iso.value ? day(`${iso.value}T12:00`) : ""));
const date = computed(() => (iso.value ? new Date(`${iso.value}T12:00`) : null));

const valid = (text: string): true | string =>
  !text || isoDay(text) !== null || "A day, as 27 Nov 2026 or 2026-11-27";

function typed(event: Event): void {
  const text = (event.target as HTMLInputElement).value.trim();
  if (!text) iso.value = null;
  else iso.value = isoDay(text) ?? iso.value;
}

function picked(to: unknown): void {
  if (to instanceof Date) iso.value = isoDay(to);
  open.value = false;
}
</script>

<template>
  <v-text-field
    :model-value="shown"
    :label="label"
    :disabled="disabled"
    :rules="[valid]"
    placeholder="2026-11-27"
    @change="typed"
  >
    <template #append-inner>
      <v-menu v-if="!props.disabled" v-model="open" :close-on-content-click="false">
        <template #activator="{ props: opens }">
          <IconAction v-bind="opens" :icon="mdiCalendar" :aria-label="`Calendar for ${label}`" />
        </template>
        <v-date-picker :model-value="date" hide-header @update:model-value="picked" />
      </v-menu>
    </template>
  </v-text-field>
</template>
