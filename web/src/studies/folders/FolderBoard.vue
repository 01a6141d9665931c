<script setup lang="ts">
// The board: contenders down, frames across, and in each cell the file that is taken for it.
import { ref } from "vue";

import type { Contender, FolderFile, Frame } from "@/api/types";
import { named } from "@/shared/lib/words";
import FileChip from "./FileChip.vue";
import LetterBox from "@/shared/ui/LetterBox.vue";

const props = defineProps<{
  frames: Frame[];
  contenders: Contender[];
  cells: Map<string, FolderFile[]>;
  movable: boolean;
}>();
const emit = defineEmits<{
  put: [file: number, contender: number, frame: number];
  step: [file: FolderFile, down: number, across: number];
}>();
const chosen = defineModel<number>("chosen");
const over = ref("");
const at = (contender: number, frame: number): FolderFile[] =>
  props.cells.get(`${contender}/${frame}`) ?? [];

function dropped(event: DragEvent, contender: number, frame: number): void {
  over.value = "";
  const file = Number(event.dataTransfer?.getData("application/x-file-of-folder"));
  if (file) emit("put", file, contender, frame);
}
</script>

<template>
  <div
    style="--above: 170px"
    class="scroll"
    tabindex="0"
    role="region"
    aria-label="Files in their cells"
  >
    <v-table>
      <thead>
        <tr>
          <th scope="col">Contender</th>
          <th v-for="f in frames" :key="f.id" scope="col">{{ f.name }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="c in contenders" :key="c.id">
          <th scope="row" style="width: 210px">
            <span class="d-flex ga-2 align-start"
              ><LetterBox :letter="c.letter" /><span>{{ named(c) }}</span></span
            >
          </th>
          <td
            v-for="f in frames"
            :key="f.id"
            :class="{ over: over === `${c.id}/${f.id}` }"
            @dragover.prevent="over = `${c.id}/${f.id}`"
            @dragleave="over = ''"
            @drop.prevent="dropped($event, c.id, f.id)"
          >
            <FileChip
              v-for="file in at(c.id, f.id)"
              :key="file.id"
              :file="file"
              :chosen="file.id === chosen"
              :movable="movable"
              @choose="chosen = file.id"
              @step="(down, across) => emit('step', file, down, across)"
            />
            <span v-if="!at(c.id, f.id).length" class="soft small">none</span>
          </td>
        </tr>
      </tbody>
    </v-table>
  </div>
</template>

<style scoped>
td.over {
  background: color-mix(in srgb, var(--spruce) 12%, transparent);
}
</style>
