<script setup lang="ts">
// A treatment in words: ordered steps of tool, release, mode and settings.
import { computed, ref } from "vue";

import { type Step, useTools } from "../api/queries";

const props = defineProps<{ steps: readonly Step[]; busy: boolean; action: string }>();
const emit = defineEmits<{ done: [steps: Step[]]; cancel: [] }>();
const { data: tools } = useTools();
const fresh = (): Step => ({ tool: "", release: "", mode: "", settings: "", automatic: false });
const rows = ref<Step[]>(props.steps.length ? props.steps.map((s) => ({ ...s })) : [fresh()]);
const names = computed(() => (tools.value ?? []).map((t) => t.name));
const releases = (tool: string): string[] =>
  (tools.value ?? []).find((t) => t.name === tool)?.releases.filter(Boolean) ?? [];
const ready = computed(() => rows.value.every((s) => s.tool?.trim()));

function submit(): void {
  const steps = rows.value.map((s) => ({ ...s, tool: s.tool ?? "", release: s.release ?? "" }));
  emit("done", steps);
}
</script>

<template>
  <form class="treatment" @submit.prevent="submit">
    <fieldset v-for="(step, i) in rows" :key="i">
      <legend v-if="rows.length > 1" class="soft">Step {{ i + 1 }}</legend>
      <v-combobox v-model="step.tool" :items="names" label="Tool" class="wide" :autofocus="i === 0" />
      <v-combobox v-model="step.release" :items="releases(step.tool)" label="Release" class="narrow" />
      <v-text-field v-model="step.mode" label="Mode" class="narrow" maxlength="80" />
      <v-text-field v-model="step.settings" label="Settings, in words" class="wide" maxlength="300" />
      <v-checkbox v-model="step.automatic" label="automatic" />
      <button v-if="rows.length > 1" type="button" class="link" @click="rows.splice(i, 1)">
        Remove step
      </button>
    </fieldset>
    <div class="acts">
      <v-btn type="submit" variant="flat" :loading="busy" :disabled="!ready">{{ action }}</v-btn>
      <button type="button" class="link" @click="rows.push(fresh())">Add a step after it</button>
      <button type="button" class="link" @click="emit('cancel')">Cancel</button>
    </div>
  </form>
</template>

<style scoped>
.treatment {
  flex: 1;
  display: grid;
  gap: 12px;
}
fieldset {
  border: 0;
  padding: 0;
  display: flex;
  gap: 10px;
  flex-wrap: wrap;
  align-items: center;
}
.wide {
  flex: 2 1 200px;
}
.narrow {
  flex: 1 1 120px;
}
.acts {
  display: flex;
  gap: 20px;
  align-items: center;
}
</style>
