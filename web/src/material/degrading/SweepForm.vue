<script setup lang="ts">
// One number of a recipe that runs through several values: a frame for each.
import { computed, ref, watch } from "vue";

import type { StepKind } from "@/api/types";
import type { Sweep } from "./useRecipe";
import type { Step as RecipeStep } from "@/shared/lib/useSteps";

const STOPS = [100, 200, 400, 800, 1600, 3200, 6400, 12800, 25600, 51200];
const props = defineProps<{ steps: RecipeStep[]; kinds: readonly StepKind[] }>();
const sweep = defineModel<Sweep | undefined>({ required: true });
const chosen = ref("");
const text = ref("");
const numbers = computed(() =>
  props.steps.flatMap((s, i) => {
    const kind = props.kinds.find((k) => k.id === s.kind);
    return (kind?.parameters ?? [])
      .filter((p) => !p.among.length)
      .map((p) => ({
        key: `${i}/${p.name}`,
        step: i,
        parameter: p.name,
        words: `${i + 1}. ${kind?.title}: ${p.title}`,
      }));
  }),
);

const choices = computed(() => [
  { value: "", title: "nothing, one frame" },
  ...numbers.value.map((n) => ({ value: n.key, title: n.words })),
]);

function usual(): void {
  const number = numbers.value.find((n) => n.key === chosen.value);
  if (!number) return void (text.value = "");
  const now = Number(props.steps[number.step]?.values[number.parameter]);
  text.value = number.parameter === "iso" ? STOPS.join(", ") : [now / 2, now, now * 2].join(", ");
}

watch([chosen, text, numbers], () => {
  const number = numbers.value.find((n) => n.key === chosen.value);
  const values = text.value
    .split(/[\s,;]+/)
    .filter(Boolean)
    .map(Number);
  const good = number && values.length > 0 && values.every((v) => Number.isFinite(v));
  sweep.value = good ? { step: number.step, parameter: number.parameter, values } : undefined;
});
</script>

<template>
  <div class="fields pb-4">
    <v-select v-model="chosen" label="Series over" :items="choices" @update:model-value="usual" />
    <v-text-field
      v-if="chosen"
      v-model="text"
      class="number"
      label="Values of the series"
      hint="Separated by commas; one frame for each"
      persistent-hint
    />
  </div>
</template>
