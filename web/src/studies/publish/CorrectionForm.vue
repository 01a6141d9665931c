<script setup lang="ts">
import { computed, ref } from "vue";

import type { Shape } from "@/api/client";
import type { BlockKind } from "./blocks";
import { correctionOf, placesOf, type Spot } from "./corrections";

const { editions, kinds, patches, frames, letters } = defineProps<{
  editions: readonly number[];
  kinds: readonly BlockKind[];
  patches: readonly Spot[];
  frames: readonly { id: number; name: string }[];
  letters: readonly string[];
  measures: readonly Shape["PrintedMeasureOut"][];
  busy: boolean;
}>();
const emit = defineEmits<{ add: [body: Shape["CorrectionIn"]]; cancel: [] }>();
const edition = ref(editions[0] ?? 1);
const place = ref<string | null>(null);
const measure = ref<string | null>(null);
const letter = ref<string | null>(null);
const text = ref("");
const places = computed(() => placesOf(kinds, patches, frames));
const ofFigure = computed(() => place.value?.startsWith("patch") ?? false);
const missing = computed(() => {
  if (!place.value) return "Choose where it stood.";
  if (ofFigure.value && !measure.value !== !letter.value)
    return "Choose both a measure and a contender, or neither.";
  return text.value.trim() ? "" : "Say what was wrong.";
});

function add(): void {
  if (missing.value || !place.value) return;
  emit("add", correctionOf(edition.value, place.value, measure.value, letter.value, text.value));
}
</script>

<template>
  <v-form class="in-grid ga-4 pt-2" aria-label="New correction" @submit.prevent="add">
    <div class="d-flex flex-wrap ga-4">
      <v-select v-model="edition" :items="[...editions]" label="Wrong in edition" class="short" />
      <v-autocomplete
        v-model="place"
        :items="places"
        item-title="title"
        item-value="key"
        label="Where it stood"
      />
    </div>
    <div v-if="ofFigure" class="d-flex flex-wrap ga-4">
      <v-autocomplete
        v-model="measure"
        :items="[...measures]"
        item-title="name"
        item-value="id"
        label="Measure, if one number"
        clearable
      />
      <v-select v-model="letter" :items="[...letters]" label="Contender" class="short" clearable />
    </div>
    <v-textarea v-model="text" label="What was wrong" rows="2" maxlength="2000" />
    <div class="d-flex flex-wrap ga-4 align-center">
      <v-btn type="submit" :loading="busy" :disabled="!!missing">Add</v-btn>
      <v-btn variant="text" @click="emit('cancel')">Cancel</v-btn>
      <span v-if="missing" class="soft">{{ missing }}</span>
    </div>
  </v-form>
</template>

<style scoped>
.short {
  flex: 0 0 150px;
}
</style>
