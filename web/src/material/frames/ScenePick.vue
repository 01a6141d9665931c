<script setup lang="ts">
// Which scene a frame shows: chosen, added or edited in place.
import { computed, ref } from "vue";

import type { Frame, Scene } from "@/api/types";
import { knownWords } from "@/shared/lib/words";
import QuietSelect from "@/shared/ui/QuietSelect.vue";

import { useFrameChanges } from "./mutations";
import { useScenes } from "./queries";
import SceneDialog from "./SceneDialog.vue";

const NEW = -1;
const props = defineProps<{ frame: Frame; canEdit: boolean }>();
const { data: scenes } = useScenes();
const { place } = useFrameChanges();
const open = ref(false);
const editing = ref<Scene>();
const items = computed(() => [
  { value: 0, title: "not stated" },
  ...(scenes.value ?? []).map((s) => ({ value: s.id, title: s.name })),
  { value: NEW, title: "Add scene …" },
]);
const words = computed(() => {
  const scene = props.frame.scene;
  return scene ? [scene.kinds.join(", "), knownWords(scene)].filter(Boolean).join("; ") : "";
});
const shown = computed({
  get: () => props.frame.scene?.id ?? 0,
  set: (id: number) => {
    if (id === NEW) edit();
    else if (id !== shown.value) void place(props.frame.id, id || null);
  },
});

function edit(scene?: Scene): void {
  editing.value = scene;
  open.value = true;
}

function saved(scene: Scene): void {
  if (!editing.value) void place(props.frame.id, scene.id);
}
</script>

<template>
  <div class="row middle mt-1">
    <template v-if="canEdit">
      <QuietSelect v-model="shown" label="Scene" :items="items" />
      <TextAction v-if="frame.scene" @click="edit(frame.scene)">Edit scene</TextAction>
    </template>
    <span v-else-if="frame.scene"><span class="soft">Scene</span> {{ frame.scene.name }}</span>
    <span class="soft">{{ words }}</span>
    <SceneDialog v-model="open" :scene="editing" @saved="saved" />
  </div>
</template>
