<script setup lang="ts">
// A card of known size, held against the screen, tells how large its pixels are.
import { computed, ref, watch } from "vue";

import { CARD, MM_PER_INCH, ppiOfCard, useScreen } from "./screen";

const open = defineModel<boolean>({ required: true });
const emit = defineEmits<{ told: [] }>();
const { ppi } = useScreen();
const ratio = window.devicePixelRatio || 1;
/** How wide the drawn card is, CSS px: 96 an inch to begin with, as a style sheet has it. */
const usual = (CARD.width / MM_PER_INCH) * 96;
const width = ref(usual);
watch(
  open,
  () => (width.value = ppi.value ? ((CARD.width / MM_PER_INCH) * ppi.value) / ratio : usual),
);
const found = computed(() => ppiOfCard(width.value * ratio));

function save(): void {
  ppi.value = found.value;
  open.value = false;
  emit("told");
}
</script>

<template>
  <v-dialog v-model="open" max-width="760" aria-labelledby="screen-title">
    <v-card>
      <h2 id="screen-title">How large are this screen’s pixels?</h2>
      <p class="pt-1">
        Hold a bank card, or another card of that size ({{ CARD.width }} × {{ CARD.height }} mm),
        against the screen, and move the slider until the outline is as large.
      </p>
      <div
        class="card my-4"
        :style="{ width: `${width}px`, aspectRatio: `${CARD.width} / ${CARD.height}` }"
      />
      <v-slider
        v-model="width"
        aria-label="Width of the card"
        :min="150"
        :max="700"
        :step="0.5"
        hide-details
      />
      <div class="dialog-acts">
        <v-btn variant="flat" @click="save">It fits</v-btn>
        <v-btn variant="text" @click="open = false">Cancel</v-btn>
        <span class="mono soft end">{{ found.toFixed(0) }} ppi</span>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.card {
  border: 1px solid var(--ink);
  border-radius: 12px;
  max-width: 100%;
}
</style>
