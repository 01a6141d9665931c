<script setup lang="ts">
import { computed, ref } from "vue";

import { api, ask } from "../api/client";
import { type Frame, type Scene, SCENE_KINDS, useFrames, useSession } from "../api/queries";
import { useAct } from "../composables/useAct";
import ConfirmDialog from "../parts/ConfirmDialog.vue";
import DropZone from "../parts/DropZone.vue";
import FrameCard from "../parts/FrameCard.vue";
import { send } from "../sending/store";

const { data: frames, error } = useFrames();
const { data: session } = useSession();
const { act } = useAct();
const canEdit = computed(() => session.value?.role !== "viewer");
const removing = ref<Frame>();
const asked = ref(false);

const words = ref("");
const kind = ref<Scene["kinds"][number] | "">("");
const found = computed(() => {
  const wanted = words.value.toLowerCase().split(/\s+/).filter(Boolean);
  return (frames.value ?? []).filter((f) => {
    const facts = f.picture.facts;
    const iso = facts?.iso ? `ISO ${facts.iso}` : "";
    const text = [f.name, f.file_name, f.scene?.name, facts?.camera, facts?.lens, iso]
      .join(" ")
      .toLowerCase();
    return wanted.every((w) => text.includes(w)) && (!kind.value || f.scene?.kinds.includes(kind.value));
  });
});

function askToRemove(frame: Frame): void {
  removing.value = frame;
  asked.value = true;
}

function remove(): void {
  const frame = removing.value;
  if (!frame) return;
  const params = { path: { frame_id: frame.id } };
  void act(() => ask(api.DELETE("/api/frames/{frame_id}", { params })), `${frame.name} removed.`);
}
</script>

<template>
  <div class="page">
    <h1 class="head">Frames</h1>
    <p class="soft">Every source file on this bench, with its truth where there is one.</p>
    <section class="block">
      <DropZone
        v-if="canEdit"
        label="Add frames"
        hint="or drop them here: TIFF, PNG, JPEG, WebP, AVIF, DNG or raw. The same file twice is recognised."
        multiple
        @files="(files) => send({ kind: 'frame' }, files)"
      />
      <p v-if="error" class="rowan">{{ error.message }}</p>
      <p v-else-if="frames && !frames.length" class="soft note">No frame yet.</p>
      <div v-else-if="frames" class="toolbar" role="search">
        <label>
          <span class="soft">Find </span>
          <input v-model="words" type="search" class="find" placeholder="name, camera, lens, ISO" />
        </label>
        <label>
          <span class="soft">Kind of scene </span>
          <select v-model="kind" class="quiet-select">
            <option value="">any</option>
            <option v-for="k in SCENE_KINDS" :key="k">{{ k }}</option>
          </select>
        </label>
        <span class="soft" role="status">{{ found.length }} of {{ frames.length }}</span>
      </div>
      <FrameCard
        v-for="f in found"
        :key="f.id"
        :frame="f"
        :can-edit="canEdit"
        leave-label="Remove"
        @leave="askToRemove(f)"
      />
    </section>
    <ConfirmDialog
      v-model="asked"
      :title="`Remove ${removing?.name} from the bench?`"
      text="Only a frame that no study uses can be removed."
      action="Remove it"
      @confirmed="remove"
    />
  </div>
</template>

<style scoped>
.head {
  margin: 28px 0 4px;
}
.find {
  margin-left: 6px;
  font: inherit;
  color: inherit;
  background: var(--sheet);
  border: 1px solid var(--rule);
  padding: 4px 8px;
  width: 260px;
}
.note {
  padding-top: 16px;
}
</style>
