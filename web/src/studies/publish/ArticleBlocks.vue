<script setup lang="ts">
// The order of an article: its blocks, moved by keys or by dragging, with headings and texts of the
// author's own.
import { computed, nextTick, ref, useTemplateRef } from "vue";

import type { Shape } from "@/api/client";
import { useNotices } from "@/shared/lib/useNotices";
import AddMenu from "@/shared/ui/AddMenu.vue";
import { addable, added, type Block, type BlockKind, moved } from "./blocks";
import BlockBody from "./BlockBody.vue";
import type { NamedMeasure } from "./choice";

const props = defineProps<{
  kinds: readonly BlockKind[];
  /** As they were saved, with the readings that their texts ask for. */
  saved: readonly Block[];
  values: readonly Shape["TextValueOut"][];
  measures: readonly NamedMeasure[];
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
/** As they were told for the text that was saved; another text may ask for others. */
const valuesOf = (block: Block, at: number) =>
  props.saved[at]?.text === block.text ? props.values.filter((v) => v.block === at) : [];

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
function change(at: number, to: Block): void {
  last.value = at;
  blocks.value = blocks.value.map((b, i) => (i === at ? to : b));
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
      <BlockBody
        :at="i"
        :model-value="block"
        :measures="measures"
        :values="valuesOf(block, i)"
        :readonly="readonly"
        @update:model-value="change(i, $event)"
      />
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
.grip {
  cursor: grab;
}
</style>
