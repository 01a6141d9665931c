<script setup lang="ts">
// Licence, source and credit: of frames, or of what a contender made.
import { computed, ref, watch } from "vue";

import { NO_TERMS, type Terms, useLicences } from "./terms";

const props = defineProps<{
  title: string;
  /** What these terms are for, and what holds beside them. */
  text: string;
  start: Terms;
  busy: boolean;
}>();
const open = defineModel<boolean>({ required: true });
const emit = defineEmits<{ save: [terms: Terms] }>();
const { data: licences } = useLicences();
const terms = ref<Terms>({ ...NO_TERMS });
watch(open, (now) => now && (terms.value = { ...props.start }), { immediate: true });

const items = computed(() => [
  { value: "", title: "not told" },
  ...(licences.value ?? []).map((l) => ({ value: l.id, title: l.title })),
]);
const follows = computed(() => {
  const licence = licences.value?.find((l) => l.id === terms.value.licence);
  if (!licence) return "Files without a licence are not offered to readers.";
  if (!licence.passed_on) return "Crops are shown in reports; the files are not offered.";
  return licence.changed ? "" : "The file is offered, what was made from it is not.";
});
</script>

<template>
  <v-dialog v-model="open" :aria-label="title">
    <v-card>
      <v-form class="stack" @submit.prevent="emit('save', terms)">
        <h2>{{ title }}</h2>
        <p class="soft">{{ text }}</p>
        <v-select v-model="terms.licence" label="Licence" :items="items" />
        <p v-if="follows" class="soft small" role="status">{{ follows }}</p>
        <v-text-field
          v-model="terms.source"
          label="Source: who made it, and where it comes from"
          maxlength="400"
        />
        <v-text-field
          v-model="terms.credit"
          label="Credit, as it stands beside the picture"
          maxlength="200"
        />
        <div class="dialog-acts">
          <v-btn type="submit" variant="flat" :loading="busy">Save</v-btn>
          <v-btn variant="text" @click="open = false">Cancel</v-btn>
        </div>
      </v-form>
    </v-card>
  </v-dialog>
</template>
