<script setup lang="ts">
// What an author writes or chooses in one block.
import { computed, ref } from "vue";

import type { Shape } from "@/api/client";
import { type Figure, figureWords } from "@/studies/shared/figures/figures";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import RichText from "@/shared/ui/RichText.vue";
import { type Block, type Choice, isChosen, NOTHING } from "./blocks";
import { choiceWords, type NamedMeasure, placeItems } from "./choice";
import ReadingsDialog from "./ReadingsDialog.vue";
import TextValues from "./TextValues.vue";
import ValueDialog from "./ValueDialog.vue";

const props = defineProps<{
  at: number;
  measures: readonly NamedMeasure[];
  values: readonly Shape["TextValueOut"][];
  readonly: boolean;
}>();
const block = defineModel<Block>({ required: true });
const { study, columns } = useStudyContext();
const choosing = ref(false);
const asking = ref(false);
let insert: (text: string) => void = () => {};

const places = computed(() => placeItems(study.value.frames, study.value.patches));
const nameOf = (what: string) => `${what}, block ${props.at + 1}`;
const write = (text: string) => (block.value = { ...block.value, text });
const choose = (table: Choice) => (block.value = { ...block.value, table });

/** The frame's own pixels there. */
function pictureOf(figure: Figure): string | undefined {
  const { x, y, w, h } = figure;
  const picture = study.value.frames.find((f) => f.id === figure.frame)?.picture;
  return picture && `/api/pictures/${picture.id}/parts/${x}_${y}_${w}_${h}.png`;
}
const wordsOf = (figure: Figure): string =>
  figureWords(
    figure,
    study.value.frames.find((f) => f.id === figure.frame)?.name ?? "a frame that is gone",
  );
function askValue(into: (text: string) => void): void {
  insert = into;
  asking.value = true;
}
</script>

<template>
  <v-text-field
    v-if="block.kind === 'heading'"
    :model-value="block.text"
    :label="nameOf('Heading')"
    maxlength="200"
    hide-details
    :readonly="readonly"
    @update:model-value="write"
  />
  <template v-else-if="block.kind === 'text' || block.kind === 'reply'">
    <v-text-field
      v-if="block.kind === 'reply'"
      :model-value="block.by"
      :label="nameOf('Whose reply, and when it came')"
      maxlength="120"
      hide-details
      class="pb-2"
      :readonly="readonly"
      @update:model-value="block = { ...block, by: $event }"
    />
    <RichText
      :model-value="block.text ?? ''"
      :label="nameOf(block.kind === 'reply' ? 'Reply' : 'Text')"
      :readonly="readonly"
      @update:model-value="write"
    >
      <template #acts="{ insert: into }">
        <TextAction class="small" @click="askValue(into)">Reading</TextAction>
      </template>
    </RichText>
  </template>
  <div v-else-if="isChosen(block.kind)" class="pt-1">
    <v-text-field
      :model-value="block.text"
      :label="nameOf('Caption')"
      placeholder="The names of its measures"
      maxlength="300"
      hide-details
      :readonly="readonly"
      @update:model-value="write"
    />
    <p class="soft small">
      {{ choiceWords(block.table ?? NOTHING, measures, places) }}
      <TextAction v-if="!readonly" class="small ml-2" @click="choosing = true"
        >Choose readings</TextAction
      >
    </p>
  </div>
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
        :label="nameOf('Caption')"
        maxlength="300"
        hide-details
        :readonly="readonly"
        @update:model-value="write"
      />
      <p class="soft small">{{ wordsOf(block.figure) }}</p>
    </div>
  </div>
  <TextValues :values="values" />
  <ReadingsDialog
    v-if="isChosen(block.kind)"
    v-model="choosing"
    :what="block.kind"
    :start="block.table ?? NOTHING"
    :measures="measures"
    :places="places"
    :contenders="columns"
    :matching="!!study.matched"
    @chosen="choose"
  />
  <ValueDialog
    v-model="asking"
    :measures="measures"
    :places="places"
    :contenders="columns"
    @chosen="insert($event)"
  />
</template>

<style scoped>
.part {
  max-width: 120px;
  max-height: 84px;
  object-fit: contain;
}
</style>
