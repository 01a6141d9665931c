<script setup lang="ts">
// A file that is made when it is asked for, then downloaded: choose which, wait, have it.
import { onBeforeUnmount, ref } from "vue";

import { useNotices } from "@/shared/lib/useNotices";

const props = defineProps<{
  label: string;
  action: string;
  choices: readonly (readonly [value: string, title: string])[];
  /** Asks the server; true once the file is there. */
  ask: (value: string) => Promise<boolean>;
  address: (value: string) => string;
}>();
const notices = useNotices();
const busy = ref(false);
const PAUSE_MS = 1200;
let gone = false;

async function fetchIt(value: string): Promise<void> {
  busy.value = true;
  try {
    while (!(await props.ask(value))) {
      await new Promise((resolve) => setTimeout(resolve, PAUSE_MS));
      if (gone) return;
    }
    if (!gone) window.location.assign(props.address(value));
  } catch (error) {
    notices.warn(error);
  } finally {
    busy.value = false;
  }
}

function chosen(event: Event): void {
  const select = event.target as HTMLSelectElement;
  const value = select.value;
  select.value = "";
  if (value) void fetchIt(value);
}
onBeforeUnmount(() => (gone = true));
</script>

<template>
  <label>
    <span class="visually-hidden">{{ label }}</span>
    <select class="quiet-select" :disabled="busy" @change="chosen">
      <option value="">{{ busy ? "Being made ..." : action }}</option>
      <option v-for="[value, title] in choices" :key="value" :value="value">{{ title }}</option>
    </select>
  </label>
</template>

<style scoped>
.quiet-select {
  max-width: 132px;
  font-weight: 400;
}
</style>
