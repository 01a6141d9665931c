<script setup lang="ts">
// A treatment in the making: ordered steps, what it is handed, kept ones to start from, a family of it.
import { ref } from "vue";

import { api, ask } from "@/api/client";
import { type Treatment, useSavedTreatments } from "@/api/queries";
import { useAct } from "@/shared/lib/useAct";
import { copyOf, FEEDS, freshStep, useTreatment } from "./useTreatment";
import FamilyForm from "./FamilyForm.vue";
import StepEditor from "./StepEditor.vue";

const props = defineProps<{
  study: number;
  start: Treatment | null;
  busy: boolean;
  action: string;
  family?: boolean;
}>();
const emit = defineEmits<{ done: [treatment: Treatment]; cancel: [] }>();
const draft = useTreatment(props.start);
const { steps, feed, treatment, ready, move, take, releasesOf } = draft;
const { data: saved } = useSavedTreatments();
const { act } = useAct();
const asFamily = ref(false);
const keepAs = ref("");
const keeping = ref(false);

const from = ref<number>();

function startFrom(id: string): void {
  const found = saved.value?.find((s) => s.id === Number(id));
  from.value = found?.id;
  if (found) take(found.treatment);
}

async function letGo(): Promise<void> {
  const params = { path: { treatment_id: from.value ?? 0 } };
  await act(
    () => ask(api.DELETE("/api/treatments/{treatment_id}", { params })),
    "Let go; no contender changes.",
  );
  from.value = undefined;
}

async function keep(): Promise<void> {
  const body = { name: keepAs.value, treatment: treatment.value };
  if (await act(() => ask(api.POST("/api/treatments", { body })), `Kept as “${keepAs.value}”.`))
    keeping.value = false;
}

const names = (tool: string): string[] => releasesOf(tool).map((r) => r.name);
</script>

<template>
  <form class="treatment" @submit.prevent="emit('done', treatment)">
    <label v-if="saved?.length" class="line">
      <span class="soft">Start from a kept one</span>
      <select class="quiet-select" @change="startFrom(($event.target as HTMLSelectElement).value)">
        <option value="">none</option>
        <option v-for="s in saved" :key="s.id" :value="s.id">{{ s.name }}</option>
      </select>
      <button v-if="from" type="button" class="link" @click="letGo">Let it go</button>
    </label>
    <StepEditor
      v-for="(_, i) in steps"
      :key="i"
      v-model="steps[i]!"
      :draft="draft"
      :at="i"
      :alone="steps.length === 1"
      @move="(by) => move(i, by)"
      @copy="steps.splice(i + 1, 0, copyOf(steps[i]!))"
      @remove="steps.splice(i, 1)"
    />
    <div class="line">
      <button type="button" class="link" @click="steps.push(freshStep())">
        Add a step after it
      </button>
      <label class="line">
        <span class="soft">The first step is handed the</span>
        <select v-model="feed" class="quiet-select">
          <option v-for="f in FEEDS" :key="f">{{ f }}</option>
        </select>
      </label>
      <span v-if="keeping" class="line">
        <input
          v-model="keepAs"
          class="text-input"
          placeholder="name"
          aria-label="Name to keep the treatment under"
        />
        <button type="button" class="link" :disabled="!keepAs.trim()" @click="keep">Keep</button>
      </span>
      <button v-else type="button" class="link" :disabled="!ready" @click="keeping = true">
        Keep for reuse
      </button>
    </div>
    <FamilyForm
      v-if="asFamily && ready"
      :study="study"
      :treatment="treatment"
      :releases="names"
      @done="emit('cancel')"
      @cancel="asFamily = false"
    />
    <div v-else class="line">
      <v-btn type="submit" variant="flat" :loading="busy" :disabled="!ready">{{ action }}</v-btn>
      <button v-if="family" type="button" class="link" :disabled="!ready" @click="asFamily = true">
        Enter a family of it
      </button>
      <button type="button" class="link" @click="emit('cancel')">Cancel</button>
    </div>
  </form>
</template>

<style scoped>
.treatment {
  flex: 1;
  display: grid;
  gap: 16px;
  min-width: 0;
}
.line {
  display: flex;
  gap: 10px 22px;
  flex-wrap: wrap;
  align-items: center;
}
label.line {
  gap: 8px;
}
</style>
