<script setup lang="ts">
// What a print of so many pixels takes: size, enlargement, and what is seen of it.
import { refDebounced } from "@vueuse/core";
import { computed, ref } from "vue";

import { usePrint } from "./queries";

const props = defineProps<{ width: number; height: number }>();
const ppi = ref("300");
const longer = ref("60");
const distance = ref("60");
const query = refDebounced(
  computed(() => ({
    width: props.width,
    height: props.height,
    ppi: Number(ppi.value),
    longer_cm: Number(longer.value),
    distance_cm: Number(distance.value),
  })),
  250,
);
const { data, error } = usePrint(query);
</script>

<template>
  <details class="pt-2">
    <summary class="cursor-pointer soft">As a print</summary>
    <div class="print pt-2">
      <v-text-field
        v-model="ppi"
        label="Resolution"
        suffix="ppi"
        inputmode="decimal"
        hide-details
      />
      <v-text-field
        v-model="longer"
        label="Longer side"
        suffix="cm"
        inputmode="decimal"
        hide-details
      />
      <v-text-field
        v-model="distance"
        label="Seen from"
        suffix="cm"
        inputmode="decimal"
        hide-details
      />
    </div>
    <p v-if="error" class="rowan small pt-2">{{ error.message }}</p>
    <template v-else>
      <p v-for="words in data?.said" :key="words" class="small pt-1">{{ words }}</p>
    </template>
  </details>
</template>

<style scoped>
.print {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(96px, 1fr));
  gap: 8px;
}
</style>
