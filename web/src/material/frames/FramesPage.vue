<script setup lang="ts">
import { computed, ref, watch } from "vue";

import { SCENE_KINDS, useFrames, useSession } from "@/api/queries";
import { useFrameFinder } from "./useFrameFinder";
import { counted, knownWords } from "@/shared/lib/words";
import ChosenFrames from "./ChosenFrames.vue";
import DropZone from "@/shared/ui/DropZone.vue";
import FrameRow from "./FrameRow.vue";
import { send } from "@/uploads/store";

const { data: frames, error } = useFrames();
const { data: session } = useSession();
const canEdit = computed(() => session.value?.role !== "viewer");
const { words, kind, camera, truth, order, cameras, found, groups } = useFrameFinder(frames);

const chosen = ref(new Set<number>());
const chosenFrames = computed(() => found.value.filter((f) => chosen.value.has(f.id)));
// What is filtered away is not chosen any more: nothing happens to frames out of sight.
watch(found, (now) => {
  const here = new Set(now.map((f) => f.id));
  for (const id of chosen.value) if (!here.has(id)) chosen.value.delete(id);
});

function choose(id: number, on: boolean): void {
  if (on) chosen.value.add(id);
  else chosen.value.delete(id);
}
</script>

<template>
  <div class="page">
    <h1 class="head">Frames</h1>
    <p class="soft">
      Every source file on this bench, under the scene it shows, with its truth where there is one.
    </p>
    <section class="block">
      <DropZone
        v-if="canEdit"
        label="Add frames"
        hint="or drop or paste them anywhere: TIFF, PNG, JPEG, JPEG XL, WebP, AVIF, HEIC, DNG or raw. The same file twice is recognised."
        multiple
        @files="(files) => send({ kind: 'frame' }, files)"
      />
      <p v-if="error" class="rowan">{{ error.message }}</p>
      <p v-else-if="frames && !frames.length" class="soft note">
        No frame yet. A frame is a picture as it was before any tool touched it.
      </p>
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
        <label>
          <span class="soft">Camera </span>
          <select v-model="camera" class="quiet-select">
            <option value="">any</option>
            <option v-for="c in cameras" :key="c">{{ c }}</option>
          </select>
        </label>
        <label>
          <span class="soft">Truth </span>
          <select v-model="truth" class="quiet-select">
            <option value="">with or without</option>
            <option value="with">with</option>
            <option value="without">without</option>
          </select>
        </label>
        <label>
          <span class="soft">Order </span>
          <select v-model="order" class="quiet-select">
            <option value="scene">by scene, then ISO</option>
            <option value="newest">newest first</option>
          </select>
        </label>
        <span class="soft count" role="status">{{ found.length }} of {{ frames.length }}</span>
      </div>
      <p v-if="frames?.length && !found.length" class="soft note">No frame fits.</p>
      <section
        v-for="group in groups"
        :key="group.key"
        :aria-label="group.key || 'Frames of no scene'"
        class="group"
      >
        <header v-if="order === 'scene' && group.frames.length" class="scene">
          <h2>{{ group.scene?.name ?? "No scene told" }}</h2>
          <span class="soft">
            {{
              [
                counted(group.frames.length, "frame"),
                group.scene?.kinds.join(", "),
                group.scene && knownWords(group.scene),
              ]
                .filter(Boolean)
                .join("; ")
            }}
          </span>
        </header>
        <FrameRow
          v-for="f in group.frames"
          :key="f.id"
          :frame="f"
          :can-edit="canEdit"
          :model-value="chosen.has(f.id)"
          @update:model-value="(on) => choose(f.id, on)"
        />
      </section>
      <ChosenFrames :chosen="chosenFrames" @done="chosen.clear()" />
    </section>
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
  width: 200px;
}
.note {
  padding-top: 16px;
}
.count {
  margin-left: auto;
}
.scene {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 16px;
  align-items: baseline;
  padding: 16px 0 6px;
  border-bottom: 1px solid var(--rule);
}
</style>
