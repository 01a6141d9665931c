<script setup lang="ts">
// A column's head: its letter and name, and how often it was chosen blind; dragged to another
// place, held, hidden.
import type { Contender } from "@/api/types";
import LetterBox from "@/shared/ui/LetterBox.vue";
import { titled } from "@/shared/lib/words";
import { chosenWords } from "@/studies/shared/sittings/chosen";

import { lettersIn } from "./columns";
import type { Wall } from "./useWall";

const props = defineProps<{
  contender: Contender;
  wall: Wall;
  /** Chances to be chosen, of the sitting that was closed last. */
  chances?: Readonly<Record<string, number>> | undefined;
}>();
const manner = (c: Contender): string =>
  c.kind === "truth"
    ? "known-good original"
    : c.kind === "unprocessed"
      ? c.manner || "the frame as it is"
      : c.manner;
const told = (c: Contender): string =>
  [chosenWords(props.chances, c.letter), manner(c)].filter(Boolean).join(", ");
const LETTER = "text/x-letter";

function take(event: DragEvent, letter: string): void {
  event.dataTransfer?.setData(LETTER, letter);
}

function drop(event: DragEvent, wall: Wall, to: string): void {
  const letter = event.dataTransfer?.getData(LETTER);
  if (letter) wall.move(letter, to);
}
</script>

<template>
  <div
    class="head"
    draggable="true"
    @dragstart="take($event, contender.letter)"
    @dragover.prevent
    @drop.prevent="drop($event, wall, contender.letter)"
  >
    <v-menu>
      <template #activator="{ props: opens }">
        <TextAction
          v-bind="opens"
          class="quiet-act heading w-100"
          :aria-label="`Column ${contender.letter}, ${titled(contender)}`"
        >
          <span class="d-flex ga-2 align-center text-no-wrap overflow-hidden font-weight-medium"
            ><LetterBox :letter="contender.letter" /> {{ titled(contender) }}</span
          >
        </TextAction>
      </template>
      <v-list>
        <v-list-item
          :title="
            lettersIn(wall.held.value).includes(contender.letter)
              ? 'Let it scroll'
              : 'Hold at the left'
          "
          @click="wall.hold(contender.letter)"
        />
        <v-list-item title="Move left" @click="wall.step(contender.letter, -1)" />
        <v-list-item title="Move right" @click="wall.step(contender.letter, 1)" />
        <v-list-item title="Hide" @click="wall.hide(contender.letter)" />
      </v-list>
    </v-menu>
    <v-tooltip v-if="told(contender)" :text="told(contender)" :aria-label="told(contender)">
      <template #activator="{ props: opens }">
        <span
          v-bind="opens"
          class="soft manner d-block small overflow-hidden text-no-wrap text-truncate"
          >{{ told(contender) }}</span
        >
      </template>
    </v-tooltip>
  </div>
</template>

<style scoped>
.heading {
  justify-content: start;
}
</style>
