<script setup lang="ts">
// A treatment in the making: ordered steps, what it is handed, kept ones to start from, a family of
// it.
import { computed, ref } from "vue";

import type { Treatment } from "@/api/types";
import { useSavedTreatments } from "@/tools/queries";
import { useSavedTreatmentChanges } from "@/tools/mutations";
import QuietSelect from "@/shared/ui/QuietSelect.vue";
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
const changes = useSavedTreatmentChanges();
const asFamily = ref(false);
const keepAs = ref("");
const keeping = ref(false);

const from = ref<number | null>(null);
const savedOnes = computed(() => [
  { value: null, title: "none" },
  ...(saved.value ?? []).map((s) => ({ value: s.id, title: s.name })),
]);

function startFrom(id: number | null): void {
  const found = saved.value?.find((s) => s.id === id);
  from.value = found?.id ?? null;
  if (found) take(found.treatment);
}

async function removeSaved(): Promise<void> {
  if (from.value) await changes.remove(from.value);
  from.value = null;
}

async function keep(): Promise<void> {
  if (await changes.save(keepAs.value, treatment.value)) keeping.value = false;
}

const feeds = FEEDS.map((f) => ({ value: f as string, title: f }));
const names = (tool: string): string[] => releasesOf(tool).map((r) => r.name);
</script>

<template>
  <v-form class="treatment stack flex-1-1-0 shrinks" @submit.prevent="emit('done', treatment)">
    <div v-if="saved?.length" class="row middle">
      <QuietSelect
        label="Start from saved treatment"
        :model-value="from"
        :items="savedOnes as never"
        @update:model-value="startFrom($event as number | null)"
      />
      <TextAction v-if="from" @click="removeSaved">Remove saved treatment</TextAction>
    </div>
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
    <div class="row middle">
      <TextAction @click="steps.push(freshStep())">Add step</TextAction>
      <QuietSelect v-model="feed" label="Input file" :items="feeds" />
      <span v-if="keeping" class="row middle">
        <v-text-field
          v-model="keepAs"
          class="quiet"
          placeholder="Name"
          aria-label="Name of the saved treatment"
          hide-details
        />
        <TextAction :disabled="!keepAs.trim()" @click="keep">Save</TextAction>
        <TextAction @click="keeping = false">Cancel</TextAction>
      </span>
      <TextAction v-else :disabled="!ready" @click="keeping = true">Save for reuse</TextAction>
    </div>
    <FamilyForm
      v-if="asFamily && ready"
      :study="study"
      :treatment="treatment"
      :releases="names"
      @done="emit('cancel')"
      @cancel="asFamily = false"
    />
    <div v-else class="row middle">
      <v-btn type="submit" variant="flat" :loading="busy" :disabled="!ready">{{ action }}</v-btn>
      <TextAction v-if="family" :disabled="!ready" @click="asFamily = true">
        Add a series of settings
      </TextAction>
      <TextAction @click="emit('cancel')">Cancel</TextAction>
    </div>
  </v-form>
</template>
