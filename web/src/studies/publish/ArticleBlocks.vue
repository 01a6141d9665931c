<script setup lang="ts">
// The order of an article: its blocks, moved by keys or by dragging, with headings and texts of the
// author's own.
import { computed, nextTick, ref, useTemplateRef } from "vue";

import type { Frame } from "@/api/types";
import { type Figure, figureWords } from "@/studies/shared/figures/figures";
import { useNotices } from "@/shared/lib/useNotices";
import AddMenu from "@/shared/ui/AddMenu.vue";
import RichText from "@/shared/ui/RichText.vue";
import { addable, added, type Block, type BlockKind, moved } from "./blocks";

const props = defineProps<{
  kinds: readonly BlockKind[];
  frames: readonly Frame[];
  readonly: boolean;
}>();
const blocks = defineModel<Block[]>({ required: true });
const notices = useNotices();
const list = useTemplateRef<HTMLElement>("list");
const dragged = ref<number>();
/** After which block another is added: the one that was worked on last. */
const last = ref<number>();
const byId = computed(() => new Map(props.kinds.map((k) => [k.id, k])));
const titleOf = (block: Block) => byId.value.get(block.kind)?.title ?? block.kind;

async function move(from: number, by: number): Promise<void> {
  blocks.value = moved(blocks.value, from, by);
  last.value = from + by;
  await nextTick();
  // The keys go on with the block, not with the place.
  list.value?.querySelectorAll<HTMLElement>(".line .grip")[from + by]?.focus();
}
function drop(to: number): void {
  if (dragged.value !== undefined) void move(dragged.value, to - dragged.value);
  dragged.value = undefined;
}
/** The frame's own pixels there. */
function pictureOf(figure: Figure): string | undefined {
  const { x, y, w, h } = figure;
  const picture = props.frames.find((f) => f.id === figure.frame)?.picture;
  return picture && `/api/pictures/${picture.id}/parts/${x}_${y}_${w}_${h}.png`;
}
const wordsOf = (figure: Figure): string =>
  figureWords(
    figure,
    props.frames.find((f) => f.id === figure.frame)?.name ?? "a frame that is gone",
  );

function add(kind: string): void {
  const after = last.value ?? blocks.value.length - 1;
  blocks.value = added(blocks.value, kind, after);
  last.value = after + 1;
}
function remove(at: number): void {
  const before = blocks.value;
  blocks.value = before.filter((_, i) => i !== at);
  const block = before[at];
  if (block)
    notices.tell(`${titleOf(block)} removed from the report.`, () => (blocks.value = before));
}
function write(at: number, text: string): void {
  last.value = at;
  blocks.value = blocks.value.map((b, i) => (i === at ? { ...b, text } : b));
}
</script>

<template>
  <ol ref="list" class="blocks" aria-label="Blocks of the report">
    <li
      v-for="(block, i) in blocks"
      :key="`${block.kind} ${i}`"
      class="line hair-below py-1"
      @dragover.prevent
      @drop.prevent="drop(i)"
    >
      <div class="d-flex align-center ga-2">
        <IconAction
          v-if="!readonly"
          class="grip"
          draggable="true"
          :aria-label="`Move ${titleOf(block)}: arrow keys up and down, or drag`"
          @dragstart="dragged = i"
          @keydown.up.prevent="move(i, -1)"
          @keydown.down.prevent="move(i, 1)"
          >↕</IconAction
        >
        <span>{{ titleOf(block) }}</span>
        <TextAction
          v-if="!readonly && !byId.get(block.kind)?.kept"
          class="end small"
          :aria-label="`Remove ${titleOf(block)}, block ${i + 1}`"
          @click="remove(i)"
          >Remove</TextAction
        >
        <span v-else class="end soft small">in every edition</span>
      </div>
      <v-text-field
        v-if="block.kind === 'heading'"
        :model-value="block.text"
        :label="`Heading, block ${i + 1}`"
        maxlength="200"
        hide-details
        :readonly="readonly"
        @update:model-value="write(i, $event)"
      />
      <RichText
        v-else-if="block.kind === 'text'"
        :model-value="block.text ?? ''"
        :label="`Text, block ${i + 1}`"
        :readonly="readonly"
        @update:model-value="write(i, $event)"
      />
      <div v-else-if="block.kind === 'figure' && block.figure" class="d-flex ga-3 pt-1">
        <img
          v-if="pictureOf(block.figure)"
          class="part"
          :src="pictureOf(block.figure)"
          alt="The part of the frame"
          loading="lazy"
        />
        <div class="flex-1-1-0">
          <v-text-field
            :model-value="block.text"
            :label="`Caption, block ${i + 1}`"
            maxlength="300"
            hide-details
            :readonly="readonly"
            @update:model-value="write(i, $event)"
          />
          <p class="soft small">{{ wordsOf(block.figure) }}</p>
        </div>
      </div>
    </li>
  </ol>
  <p v-if="!readonly" class="soft small pt-2">
    Figures come from the wall (choose crops, then Into the report) and from the close look (Take,
    or the key “}”).
  </p>
  <AddMenu v-if="!readonly" label="Add block" :kinds="addable(kinds, blocks)" @add="add" />
</template>

<style scoped>
.blocks {
  list-style: none;
  padding: 0;
}
.part {
  max-width: 120px;
  max-height: 84px;
  object-fit: contain;
}
.grip {
  cursor: grab;
}
</style>
