<script setup lang="ts">
// Which readings a table or a chart shows: measures, places, contenders.
import { computed, ref, watch } from "vue";

import type { Contender } from "@/api/types";
import type { Choice } from "./blocks";
import { choiceOf, type NamedMeasure, type PlaceItem, placeKeys } from "./choice";

const props = defineProps<{
  what: string;
  start: Choice;
  measures: readonly NamedMeasure[];
  places: readonly PlaceItem[];
  contenders: readonly Contender[];
  /** Whether the study has matched readings as well. */
  matching: boolean;
}>();
const open = defineModel<boolean>({ required: true });
const emit = defineEmits<{ chosen: [choice: Choice] }>();
const which = ref<string[]>([]);
const where = ref<string[]>([]);
const letters = ref<string[]>([]);
const matched = ref(false);
const BASES = [
  { value: false, title: "As made" },
  { value: true, title: "Matched" },
];
watch(
  open,
  (now) => {
    if (!now) return;
    which.value = [...props.start.measures];
    where.value = placeKeys(props.start);
    matched.value = props.start.matched ?? false;
    const all = props.contenders.map((c) => c.letter);
    letters.value = props.start.letters.length ? [...props.start.letters] : all;
  },
  { immediate: true },
);
const items = computed(() =>
  props.contenders.map((c) => ({ value: c.letter, title: `${c.letter} ${c.title}` })),
);
const rows = computed(() => which.value.length * where.value.length);

function use(): void {
  emit("chosen", choiceOf(which.value, where.value, letters.value, matched.value));
  open.value = false;
}
</script>

<template>
  <v-dialog v-model="open" max-width="640" :aria-label="`Readings of the ${what}`">
    <v-card>
      <v-form class="stack" @submit.prevent="use">
        <h2>Readings of the {{ what }}</h2>
        <v-autocomplete
          v-model="which"
          multiple
          chips
          label="Measures"
          :items="[...measures]"
          item-title="name"
          item-value="id"
        />
        <v-autocomplete v-model="where" multiple chips label="Places" :items="[...places]" />
        <v-select
          v-model="letters"
          multiple
          chips
          label="Contenders, in this order"
          :items="items"
        />
        <v-select v-if="matching || matched" v-model="matched" label="Readings" :items="BASES" />
        <p class="soft small" role="status">
          {{ rows === 1 ? "1 row" : `${rows} rows` }}; where a measure was not read at a place, the
          row is left out.
        </p>
        <div class="dialog-acts">
          <v-btn type="submit" variant="flat" :disabled="!rows || !letters.length">Choose</v-btn>
          <v-btn variant="text" @click="open = false">Cancel</v-btn>
        </div>
      </v-form>
    </v-card>
  </v-dialog>
</template>
