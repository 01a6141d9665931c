<script setup lang="ts">
// One file on the board: dragged, or moved with Alt and the arrow keys; choosing it shows all that
// is known of it.
import type { FolderFile } from "@/api/types";
import { sureness } from "./useFolderBoard";

const props = defineProps<{ file: FolderFile; chosen: boolean; movable: boolean }>();
const emit = defineEmits<{ choose: []; step: [down: number, across: number] }>();
const ARROWS: Record<string, [number, number]> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

function key(event: KeyboardEvent): void {
  const arrow = ARROWS[event.key];
  if (!event.altKey || !arrow || !props.movable) return;
  event.preventDefault();
  emit("step", ...arrow);
}

function drag(event: DragEvent): void {
  event.dataTransfer?.setData("application/x-file-of-folder", String(props.file.id));
  emit("choose");
}
const short = (path: string): string => path.split("/").at(-1) ?? path;
</script>

<template>
  <TextAction
    class="chip small text-decoration-none w-100"
    :class="[sureness(file).replace(' ', '-'), { chosen }]"
    :draggable="movable"
    :aria-pressed="chosen"
    :aria-label="`${file.path}, ${sureness(file)}`"
    @click="emit('choose')"
    @dragstart="drag"
    @keydown="key"
  >
    <span class="path mono overflow-hidden text-no-wrap text-truncate">{{ short(file.path) }}</span>
    <span class="how">{{ file.use === "preview" ? "preview, " : "" }}{{ sureness(file) }}</span>
  </TextAction>
</template>

<style scoped>
.chip {
  line-height: 1.25;
  color: inherit;
  border-left: 2px solid var(--rule);
  padding: 2px 0 2px 8px;
}
.chip :deep(.v-btn__content) {
  display: grid;
  justify-items: start;
  min-width: 0;
}
.chip[draggable="true"] {
  cursor: grab;
}
.path {
  max-width: 100%;
}
.how {
  color: var(--soft);
}
.unsure,
.likely {
  border-left-style: dashed;
}
.unsure .how {
  color: var(--rowan);
}
.by-hand {
  border-left-color: var(--spruce);
}
.chosen {
  background: var(--hair);
  border-left-color: var(--ink);
}
</style>
