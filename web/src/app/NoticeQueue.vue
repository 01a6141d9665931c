<script setup lang="ts">
import { type Notice, useNotices } from "@/shared/lib/useNotices";

const { waiting } = useNotices();
// Items carry fields of our own beside the platform's.
const undoOf = (item: unknown): (() => void) | undefined => (item as Notice).undo;

function undo(item: unknown, close: () => void): void {
  undoOf(item)?.();
  close();
}
</script>

<template>
  <v-snackbar-queue
    :model-value="waiting as never"
    location="bottom left"
    role="status"
    display-strategy="overflow"
    total-visible="3"
    @update:model-value="waiting = $event as never"
  >
    <template #actions="{ item, props }">
      <v-btn
        v-if="undoOf(item)"
        variant="outlined"
        color="surface"
        @click="undo(item, props.onClick)"
        >Undo</v-btn
      >
      <v-btn variant="text" color="surface" @click="props.onClick">Close</v-btn>
    </template>
  </v-snackbar-queue>
</template>
