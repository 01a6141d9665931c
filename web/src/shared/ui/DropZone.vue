<script setup lang="ts">
import { ref, useTemplateRef } from "vue";

const props = withDefaults(
  defineProps<{
    label: string;
    hint?: string;
    multiple?: boolean;
    small?: boolean;
    busy?: boolean;
    accept?: string;
    /** Whole folders instead of files; dropping is then the user's own. */
    folder?: boolean;
  }>(),
  {
    hint: "",
    accept: ".tif,.tiff,.dng,.nef,.arw,.cr2,.cr3,.raf,.orf,.rw2,.pef,.srw,.heic,.heif,image/*",
  },
);
const emit = defineEmits<{ files: [files: File[]]; dropped: [event: DragEvent] }>();
const over = ref(false);
const field = useTemplateRef<{ $el: HTMLElement }>("field");
const input = () => field.value?.$el.querySelector("input");

function dropped(event: DragEvent): void {
  over.value = false;
  if (props.folder) return emit("dropped", event);
  const files = [...(event.dataTransfer?.files ?? [])];
  if (files.length) emit("files", files);
}

function chosen(): void {
  const now = input();
  const files = [...(now?.files ?? [])];
  if (files.length) emit("files", files);
  if (now) now.value = "";
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
    <TextAction :disabled="busy" @click="input()?.click()">{{ label }}</TextAction>
    <span v-if="hint" class="soft">{{ hint }}</span>
    <v-file-input
      ref="field"
      class="visually-hidden"
      tabindex="-1"
      :multiple="multiple || folder"
      :webkitdirectory="folder || undefined"
      :aria-label="label"
      :accept="folder ? undefined : accept"
      @change="chosen"
    />
  </div>
</template>
