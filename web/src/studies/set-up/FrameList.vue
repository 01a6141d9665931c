<script setup lang="ts">
import { computed, ref } from "vue";

import { useFrames } from "@/material/frames/queries";
import FrameTerms from "@/material/terms/FrameTerms.vue";
import DropZone from "@/shared/ui/DropZone.vue";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { send } from "@/uploads/store";

import FrameCard from "./FrameCard.vue";
import { useStudyChanges } from "./mutations";

const { study, canEdit } = useStudyContext();
const { takeFrame, removeFrame } = useStudyChanges(() => study.value.id);
const { data: all } = useFrames();
const chosen = ref<number | null>(null);
const others = computed(() => {
  const here = new Set(study.value.frames.map((f) => f.id));
  return (all.value ?? [])
    .filter((f) => !here.has(f.id))
    .map((f) => ({ value: f.id, title: f.name }));
});

async function take(frame: number | null): Promise<void> {
  if (frame) await takeFrame(frame);
  chosen.value = null;
}
</script>

<template>
  <section class="block" aria-label="Frames">
    <div class="block-head">
      <h2>Frames</h2>
      <span class="soft"
        >Unprocessed source files. Where a frame has a truth (its known-good original), errors can
        be measured.</span
      >
      <v-autocomplete
        v-if="canEdit && others.length"
        v-model="chosen"
        class="end pick"
        aria-label="Add a frame from the bench"
        placeholder="Add from the bench"
        :items="others"
        @update:model-value="take"
      />
    </div>
    <FrameCard
      v-for="frame in study.frames"
      :key="frame.id"
      :frame="frame"
      :others="all ?? []"
      :can-edit="canEdit"
      @remove="removeFrame(frame)"
    />
    <p v-if="study.frames.length > 1 && canEdit" class="pt-2">
      <FrameTerms :frames="study.frames" can-edit />
    </p>
    <DropZone
      v-if="canEdit"
      label="Add frames"
      hint="or drop them here: TIFF, PNG, JPEG, JPEG XL, WebP, AVIF, HEIC, DNG or raw. Originals are kept as they are."
      multiple
      class="mt-3"
      @files="(files) => send({ kind: 'study frame', study: study.id }, files)"
    />
  </section>
</template>

<style scoped>
.pick {
  flex: 0 1 260px;
}
</style>
