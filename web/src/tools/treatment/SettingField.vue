<script setup lang="ts">
// One setting with its type: a number with bounds and unit, a choice, a switch, words; by hand or
// automatic.
import { computed } from "vue";

import type { Setting, SettingKind } from "@/api/types";

const props = defineProps<{ kind: SettingKind }>();
const setting = defineModel<Setting>({ required: true });
const title = computed(() => props.kind.title || props.kind.name);
const bounds = computed(() =>
  props.kind.kind === "number" ? `${props.kind.low} to ${props.kind.high}` : "",
);
const within = (value: unknown): true | string => {
  const number = Number(value);
  const { kind, low, high } = props.kind;
  if (kind !== "number" || value === null || value === "") return true;
  return (
    ((low ?? -Infinity) <= number && number <= (high ?? Infinity)) || `Between ${bounds.value}`
  );
};

function set(value: Setting["value"]): void {
  setting.value = { ...setting.value, value };
}
</script>

<template>
  <div style="--columns: minmax(0, 1fr) auto" class="setting in-grid ga-2 columns">
    <NumberField
      v-if="kind.kind === 'number'"
      :model-value="setting.value === null ? null : Number(setting.value)"
      :label="title"
      :suffix="kind.unit"
      :placeholder="bounds"
      :rules="[within]"
      :disabled="setting.automatic"
      @update:model-value="$event === null || set($event)"
    />
    <v-select
      v-else-if="kind.kind === 'choice'"
      :model-value="String(setting.value ?? '') as never"
      :label="title"
      :items="(kind.among ?? []) as never"
      :disabled="setting.automatic"
      @update:model-value="set($event)"
    />
    <v-checkbox
      v-else-if="kind.kind === 'switch'"
      class="pt-5"
      :model-value="setting.value === true"
      :label="title"
      :disabled="setting.automatic"
      @update:model-value="set($event === true)"
    />
    <v-text-field
      v-else
      :model-value="String(setting.value ?? '')"
      :label="title"
      :disabled="setting.automatic"
      @update:model-value="set($event)"
    />
    <v-checkbox
      class="pt-5"
      :model-value="setting.automatic"
      label="Auto"
      :aria-label="`${title} automatic`"
      @update:model-value="setting = { ...setting, automatic: !setting.automatic }"
    />
  </div>
</template>
