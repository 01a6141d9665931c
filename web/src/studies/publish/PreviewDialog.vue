<script setup lang="ts">
// The report as its next edition would look: on a desk, on paper, on a phone.
import { computed, ref } from "vue";

import ChoiceBar from "@/shared/ui/ChoiceBar.vue";

const props = defineProps<{ study: number; next: number; unsaved: boolean }>();
const open = defineModel<boolean>({ required: true });
const way = ref<"page" | "print" | "phone">("page");
const WAYS = [
  { value: "page" as const, title: "Page" },
  { value: "print" as const, title: "Print" },
  { value: "phone" as const, title: "Phone" },
];
/** CSS px across: an A4 page, a phone; a desk takes what there is. */
const ACROSS = { page: "100%", print: "794px", phone: "390px" };
const address = computed(
  () => `/api/studies/${props.study}/report/preview/${way.value === "print" ? "?way=print" : ""}`,
);
</script>

<template>
  <v-dialog v-model="open" fullscreen :aria-label="`Preview of edition ${next}`">
    <v-card class="preview in-grid">
      <header class="d-flex align-center ga-4 px-4 py-2 rule-below">
        <h2>Preview of edition {{ next }}</h2>
        <ChoiceBar v-model="way" label="As" :items="WAYS" />
        <span v-if="unsaved" class="rowan">It shows what was saved last.</span>
        <v-btn class="end" height="30" @click="open = false">Close preview</v-btn>
      </header>
      <div class="ground on-surround">
        <iframe
          :key="address"
          :src="address"
          :title="`Edition ${next} as ${way}`"
          :style="{ width: ACROSS[way] }"
        />
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.preview {
  height: 100%;
  grid-template-rows: auto minmax(0, 1fr);
  padding: 0;
}
iframe {
  display: block;
  margin: 0 auto;
  height: 100%;
  max-width: 100%;
  border: 0;
  background: var(--paper);
}
</style>
