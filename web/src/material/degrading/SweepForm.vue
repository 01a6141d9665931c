<script setup lang="ts">
// One number of a recipe that runs through several values: a frame for each.
import { computed, ref, watch } from "vue";

import type { StepKind } from "@/api/queries";
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
  <div class="sweep">
    <label>
      <span class="soft">Make a series of</span>
      <select v-model="chosen" class="quiet-select" @change="usual">
        <option value="">nothing, one frame</option>
        <option v-for="n in numbers" :key="n.key" :value="n.key">{{ n.words }}</option>
      </select>
    </label>
    <label v-if="chosen" class="values">
      <span class="soft">with</span>
      <input v-model="text" class="list" aria-label="Values of the series, with commas between" />
    </label>
  </div>
</template>

<style scoped>
.sweep {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  padding: 12px 0;
  align-items: baseline;
}
label {
  display: inline-flex;
  gap: 8px;
  align-items: baseline;
}
.values {
  flex: 1 1 260px;
}
.list {
  flex: 1;
  font: 12.5px var(--mono);
  color: inherit;
  background: var(--sheet);
  border: 1px solid var(--rule);
  padding: 4px 7px;
}
</style>
