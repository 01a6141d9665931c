<script setup lang="ts">
// One step of a recipe with a field for each of its parameters.
import type { StepKind } from "@/api/queries";
import type { Step as RecipeStep } from "@/shared/lib/useSteps";

const props = defineProps<{ kind: StepKind; number: number; first: boolean; last: boolean }>();
const step = defineModel<RecipeStep>({ required: true });
const emit = defineEmits<{ move: [by: number]; remove: [] }>();

function set(name: string, text: string, number: boolean): void {
  const value = number ? Number(text) : text;
  if (number && (text === "" || Number.isNaN(value))) return;
  step.value.values[name] = value;
}
</script>

<template>
  <fieldset class="step">
    <legend>
      {{ number }}. {{ kind.title }} <span class="soft">{{ kind.does }}</span>
    </legend>
    <label v-for="p in kind.parameters" :key="p.name">
      <span class="soft">{{ p.title }}</span>
      <select
        v-if="p.among.length"
        class="quiet-select"
        :value="step.values[p.name]"
        @change="set(p.name, ($event.target as HTMLSelectElement).value, false)"
      >
        <option v-for="word in p.among" :key="word">{{ word }}</option>
      </select>
      <template v-else>
        <input
          type="number"
          class="number"
          :value="step.values[p.name]"
          :min="p.low ?? undefined"
          :max="p.high ?? undefined"
          :step="p.whole ? (p.unit.includes('odd') ? 2 : 1) : 'any'"
          @input="set(p.name, ($event.target as HTMLInputElement).value, true)"
        />
        <span class="soft">{{ p.unit }}</span>
      </template>
    </label>
    <slot />
    <span class="acts">
      <button type="button" class="link" :disabled="first" @click="emit('move', -1)">
        Earlier
      </button>
      <button type="button" class="link" :disabled="last" @click="emit('move', 1)">Later</button>
      <button
        type="button"
        class="link"
        :aria-label="`Remove step ${props.number}, ${kind.title}`"
        @click="emit('remove')"
      >
        Remove
      </button>
    </span>
  </fieldset>
</template>

<style scoped>
.step {
  margin: 0;
  border: 0;
  border-bottom: 1px solid var(--hair);
  padding: 4px 0 12px;
  display: flex;
  flex-wrap: wrap;
  gap: 6px 22px;
  align-items: baseline;
}
legend {
  font-weight: 600;
  padding: 10px 0 6px;
}
legend span {
  font-weight: 400;
  margin-left: 8px;
}
label {
  display: inline-flex;
  gap: 7px;
  align-items: baseline;
}
.number {
  font: 12.5px var(--mono);
  color: inherit;
  background: var(--sheet);
  border: 1px solid var(--rule);
  padding: 4px 7px;
  width: 92px;
}
.acts {
  margin-left: auto;
  display: flex;
  gap: 14px;
}
</style>
