<script setup lang="ts">
import { ref, useTemplateRef } from "vue";

withDefaults(
  defineProps<{
    label: string;
    hint?: string;
    multiple?: boolean;
    small?: boolean;
    busy?: boolean;
    accept?: string;
  }>(),
  {
    hint: "",
    accept: ".tif,.tiff,.dng,.nef,.arw,.cr2,.cr3,.raf,.orf,.rw2,.pef,.srw,.heic,.heif,image/*",
  },
);
const emit = defineEmits<{ files: [files: File[]] }>();
const over = ref(false);
const input = useTemplateRef<HTMLInputElement>("input");

function dropped(event: DragEvent): void {
  over.value = false;
  const files = [...(event.dataTransfer?.files ?? [])];
  if (files.length) emit("files", files);
}

function chosen(): void {
  const files = [...(input.value?.files ?? [])];
  if (files.length) emit("files", files);
  if (input.value) input.value.value = "";
}
</script>

<template>
  <div
    class="zone"
    :class="{ over, small }"
    @dragover.prevent="over = true"
    @dragleave="over = false"
    @drop.prevent="dropped"
  >
    <button type="button" class="link" :disabled="busy" @click="input?.click()">{{ label }}</button>
    <span v-if="hint" class="soft">{{ hint }}</span>
    <input
      ref="input"
      type="file"
      class="visually-hidden"
      tabindex="-1"
      :multiple="multiple"
      :aria-label="label"
      :accept="accept"
      @change="chosen"
    />
  </div>
</template>

<style scoped>
.zone.small {
  padding: 7px 10px;
  gap: 6px;
}
</style>
