<script setup lang="ts">
// One setting with its type: a number with bounds and unit, a choice, a switch, words; by hand or automatic.
import { computed } from "vue";

import type { Setting, SettingKind } from "@/api/queries";

const props = defineProps<{ kind: SettingKind }>();
const setting = defineModel<Setting>({ required: true });
const bounds = computed(() =>
  props.kind.kind === "number"
    ? `${props.kind.low} to ${props.kind.high} ${props.kind.unit}`.trim()
    : "",
);

function set(value: Setting["value"]): void {
  setting.value = { ...setting.value, value };
}

function number(text: string): void {
  const value = Number(text);
  if (text !== "" && !Number.isNaN(value)) set(value);
}
</script>

<template>
  <div class="setting">
    <label>
      <span class="title">{{ kind.title || kind.name }}</span>
      <input
        v-if="kind.kind === 'number'"
        type="number"
        class="number-input"
        :value="setting.value"
        :min="kind.low ?? undefined"
        :max="kind.high ?? undefined"
        :step="kind.whole ? 1 : 'any'"
        :title="bounds"
        :disabled="setting.automatic"
        @input="number(($event.target as HTMLInputElement).value)"
      />
      <select
        v-else-if="kind.kind === 'choice'"
        class="quiet-select"
        :value="setting.value"
        :disabled="setting.automatic"
        @change="set(($event.target as HTMLSelectElement).value)"
      >
        <option v-for="word in kind.among" :key="word">{{ word }}</option>
      </select>
      <input
        v-else-if="kind.kind === 'switch'"
        type="checkbox"
        :checked="setting.value === true"
        :disabled="setting.automatic"
        @change="set(($event.target as HTMLInputElement).checked)"
      />
      <input
        v-else
        type="text"
        class="text-input"
        :value="setting.value"
        :disabled="setting.automatic"
        @input="set(($event.target as HTMLInputElement).value)"
      />
      <span v-if="kind.unit" class="soft unit">{{ kind.unit }}</span>
    </label>
    <label class="soft auto">
      <input
        type="checkbox"
        :checked="setting.automatic"
        :aria-label="`${kind.title || kind.name} automatic`"
        @change="setting = { ...setting, automatic: !setting.automatic }"
      />
      automatic
    </label>
  </div>
</template>

<style scoped>
.setting {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 10px;
  align-items: center;
}
.setting label {
  display: flex;
  gap: 8px;
  align-items: center;
}
.title {
  min-width: 96px;
}
.unit,
.auto {
  white-space: nowrap;
}
.auto {
  font-size: 12.5px;
}
</style>
