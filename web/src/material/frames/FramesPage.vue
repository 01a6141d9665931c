<script setup lang="ts">
import { computed, ref, watch } from "vue";

import { SCENE_KINDS, useFrames } from "@/material/frames/queries";
import { useSession } from "@/api/session";
import { useFrameFinder } from "./useFrameFinder";
import { counted, knownWords } from "@/shared/lib/words";
import ChosenFrames from "./ChosenFrames.vue";
import { usePageTitle } from "@/shared/lib/useTitle";
import QuietSelect from "@/shared/ui/QuietSelect.vue";
import DropZone from "@/shared/ui/DropZone.vue";
import FrameRow from "./FrameRow.vue";
import { send } from "@/uploads/store";

const { data: frames, error } = useFrames();
const { data: session } = useSession();
const canEdit = computed(() => session.value?.role !== "viewer");
const { words, kind, camera, truth, order, cameras, found, groups } = useFrameFinder(frames);

const any = { value: "", title: "any" };
const kinds = [any, ...SCENE_KINDS.map((k) => ({ value: k, title: k }))];
const bodies = computed(() => [any, ...cameras.value.map((c) => ({ value: c, title: c }))]);
const TRUTHS = [
  { value: "", title: "with or without" },
  { value: "with", title: "with" },
  { value: "without", title: "without" },
];
const ORDERS = [
  { value: "scene", title: "scene, then ISO" },
  { value: "newest", title: "newest first" },
];
usePageTitle("Frames");

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
    <div class="page-top">
      <div>
        <h1>Frames</h1>
        <p class="soft">
          Every source file on this bench, by the scene it shows, with its truth where there is one.
        </p>
      </div>
    </div>
    <section class="pt-4" aria-label="All frames">
      <DropZone
        v-if="canEdit"
        label="Add frames"
        hint="or drop or paste them anywhere: TIFF, PNG, JPEG, JPEG XL, WebP, AVIF, HEIC, DNG or raw. The same file twice is recognised."
        multiple
        @files="(files) => send({ kind: 'frame' }, files)"
      />
      <p v-if="error" class="rowan">{{ error.message }}</p>
      <v-empty-state
        v-else-if="frames && !frames.length"
        title="No frames yet"
        text="A frame is a picture as it was before any tool touched it. Add the files that tools will be tested on."
      />
      <div v-else-if="frames" class="toolbar mt-2" role="search">
        <v-text-field
          v-model="words"
          width="300"
          class="quiet find"
          type="search"
          label="Search"
          prefix="Search"
          placeholder="name, camera, lens, ISO"
          hide-details
        />
        <QuietSelect v-model="kind" label="Kind of scene" :items="kinds" />
        <QuietSelect v-model="camera" label="Camera" :items="bodies" />
        <QuietSelect v-model="truth" label="Truth" :items="TRUTHS" />
        <QuietSelect v-model="order" label="Sort by" :items="ORDERS" />
        <span class="soft end" role="status">{{ found.length }} of {{ frames.length }}</span>
      </div>
      <p v-if="frames?.length && !found.length" class="soft py-4">
        No frame fits. Change the search or the filters.
      </p>
      <section
        v-for="group in groups"
        :key="group.key"
        :aria-label="group.key || 'Frames without a scene'"
      >
        <header
          v-if="order === 'scene' && group.frames.length"
          class="scene d-flex flex-wrap gr-1 gc-4 align-baseline rule-below"
        >
          <h2>{{ group.scene?.name ?? "No scene stated" }}</h2>
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
.scene {
  padding: 16px 0 6px;
}
</style>
