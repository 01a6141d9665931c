<script setup lang="ts">
// A reading for the middle of a text.
import { computed, ref, watch } from "vue";

import type { Contender } from "@/api/types";
import { asking, type NamedMeasure, type PlaceItem } from "./choice";

const props = defineProps<{
  measures: readonly NamedMeasure[];
  places: readonly PlaceItem[];
  contenders: readonly Contender[];
}>();
const open = defineModel<boolean>({ required: true });
const emit = defineEmits<{ chosen: [text: string] }>();
const letter = ref<string | null>(null);
const measure = ref<string | null>(null);
const place = ref<string | null>(null);
watch(open, (now) => now && (letter.value = null));
const items = computed(() =>
  props.contenders.map((c) => ({ value: c.letter, title: `${c.letter} ${c.title}` })),
);

function use(): void {
  const name = props.measures.find((m) => m.id === measure.value)?.name;
  const where = props.places.find((p) => p.value === place.value)?.title;
  if (!letter.value || !name || !where) return;
  emit("chosen", asking(letter.value, name, where));
  open.value = false;
}
</script>

<template>
  <v-dialog v-model="open" max-width="560" aria-label="A reading for the text">
    <v-card>
      <v-form class="stack" @submit.prevent="use">
        <h2>A reading for the text</h2>
        <p class="soft">
          It follows its reading until an edition is published. To round it, write the number behind
          it: {A detail kept, cloth = 83}.
        </p>
        <v-select v-model="letter" label="Contender" :items="items" />
        <v-autocomplete
          v-model="measure"
          label="Measure"
          :items="[...measures]"
          item-title="name"
          item-value="id"
        />
        <v-autocomplete v-model="place" label="Place" :items="[...places]" />
        <div class="dialog-acts">
          <v-btn type="submit" variant="flat" :disabled="!letter || !measure || !place"
            >Insert</v-btn
          >
          <v-btn variant="text" @click="open = false">Cancel</v-btn>
        </div>
      </v-form>
    </v-card>
  </v-dialog>
</template>
