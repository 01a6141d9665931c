<script setup lang="ts">
import { computed, ref } from "vue";

import { api, ask } from "@/api/client";
import { type Frame, useFrames } from "@/api/queries";
import { useAct } from "@/shared/lib/useAct";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import ConfirmDialog from "@/shared/ui/ConfirmDialog.vue";
import DropZone from "@/shared/ui/DropZone.vue";
import { send } from "@/uploads/store";
import FrameCard from "./FrameCard.vue";

const { study, canEdit } = useStudyContext();
const { act } = useAct();
const { data: all } = useFrames();
const others = computed(() => {
  const here = new Set(study.value.frames.map((f) => f.id));
  return (all.value ?? []).filter((f) => !here.has(f.id));
});
const leaving = ref<Frame>();
const asked = ref(false);

function take(frame: number): Promise<unknown> {
  const params = { path: { study_id: study.value.id } };
  return ask(api.POST("/api/studies/{study_id}/frames", { params, body: { frame } }));
}

function chosen(event: Event): void {
  const select = event.target as HTMLSelectElement;
  const frame = Number(select.value);
  select.value = "";
  if (frame) void act(() => take(frame));
}

function askToLeave(frame: Frame): void {
  leaving.value = frame;
  asked.value = true;
}

function leave(): void {
  const frame = leaving.value;
  if (!frame) return;
  const params = { path: { study_id: study.value.id, frame_id: frame.id } };
  void act(
    () => ask(api.DELETE("/api/studies/{study_id}/frames/{frame_id}", { params })),
    `${frame.name} taken out.`,
  );
}
</script>

<template>
  <section class="block">
    <div class="block-head">
      <h2>Frames</h2>
      <span class="soft"
        >The unprocessed source files. A truth beside one lets error be measured.</span
      >
      <label v-if="canEdit && others.length" class="end">
        <span class="visually-hidden">Take a frame that is on the bench already</span>
        <select class="quiet-select" @change="chosen">
          <option value="">Take one from the bench</option>
          <option v-for="f in others" :key="f.id" :value="f.id">{{ f.name }}</option>
        </select>
      </label>
    </div>
    <FrameCard
      v-for="frame in study.frames"
      :key="frame.id"
      :frame="frame"
      :others="all ?? []"
      :can-edit="canEdit"
      @leave="askToLeave(frame)"
    />
    <DropZone
      v-if="canEdit"
      label="Add frames"
      hint="or drop them here: TIFF, PNG, JPEG, JPEG XL, WebP, AVIF, HEIC, DNG or raw. Originals are kept as they are."
      multiple
      class="zone"
      @files="(files) => send({ kind: 'study frame', study: study.id }, files)"
    />
    <ConfirmDialog
      v-model="asked"
      :title="`Take ${leaving?.name} out of this study?`"
      text="Its patches, outputs and readings in this study go with it. The files stay on the bench."
      action="Take it out"
      @confirmed="leave"
    />
  </section>
</template>

<style scoped>
.zone {
  margin-top: 14px;
}
</style>
