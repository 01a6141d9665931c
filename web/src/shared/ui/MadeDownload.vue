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

onBeforeUnmount(() => (gone = true));
</script>

<template>
  <v-menu>
    <template #activator="{ props: opens }">
      <TextAction v-bind="opens" :aria-label="label" :disabled="busy">{{
        busy ? "Being made …" : action
      }}</TextAction>
    </template>
    <v-list :aria-label="label">
      <v-list-item
        v-for="[value, title] in choices"
        :key="value"
        :title="title"
        @click="fetchIt(value)"
      />
    </v-list>
  </v-menu>
</template>
