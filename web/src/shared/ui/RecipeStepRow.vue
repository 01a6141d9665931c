<script setup lang="ts">
// One step of an ordered list with a field for each of its parameters.
import type { StepKind } from "@/api/types";
import type { Step as RecipeStep } from "@/shared/lib/useSteps";

defineProps<{ kind: StepKind; number: number; first: boolean; last: boolean }>();
const step = defineModel<RecipeStep>({ required: true });
const emit = defineEmits<{ move: [by: number]; remove: [] }>();

function set(name: string, value: number | string | null): void {
  if (value !== null) step.value.values[name] = value;
}
</script>

<template>
  <fieldset class="step hair-below pt-1 pb-2">
    <legend class="strong pt-2 pb-1">
      {{ number }}. {{ kind.title }}
      <span class="soft font-weight-regular ml-2">{{ kind.does }}</span>
    </legend>
    <div class="fields">
      <template v-for="p in kind.parameters" :key="p.name">
        <v-select
          v-if="p.among.length"
          :model-value="String(step.values[p.name])"
          :label="p.title"
          :items="p.among"
          @update:model-value="set(p.name, $event)"
        />
        <NumberField
          v-else
          :model-value="Number(step.values[p.name])"
          :label="p.title"
          :suffix="p.unit"
          :step="p.step"
          @update:model-value="set(p.name, $event)"
        />
      </template>
      <slot />
    </div>
    <p class="row pt-1">
      <TextAction :disabled="first" :aria-label="`Move step ${number} up`" @click="emit('move', -1)"
        >Move up</TextAction
      >
      <TextAction :disabled="last" :aria-label="`Move step ${number} down`" @click="emit('move', 1)"
        >Move down</TextAction
      >
      <TextAction :aria-label="`Remove step ${number}, ${kind.title}`" @click="emit('remove')">
        Remove
      </TextAction>
    </p>
  </fieldset>
</template>
