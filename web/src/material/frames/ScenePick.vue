<script setup lang="ts">
// Which scene a frame shows: chosen, made or changed in place.
import { computed, ref } from "vue";

import { api, ask } from "@/api/client";
import { type Frame, type Scene, useScenes } from "@/api/queries";
import { useAct } from "@/shared/lib/useAct";
import { knownWords } from "@/shared/lib/words";
import SceneDialog from "./SceneDialog.vue";

const NEW = -1;
const props = defineProps<{ frame: Frame; canEdit: boolean }>();
const { data: scenes } = useScenes();
const { act } = useAct();
const open = ref(false);
const editing = ref<Scene>();
const words = computed(() => {
  const scene = props.frame.scene;
  return scene ? [scene.kinds.join(", "), knownWords(scene)].filter(Boolean).join("; ") : "";
});

function place(scene: number | null): void {
  if (scene === (props.frame.scene?.id ?? null)) return;
  const params = { path: { frame_id: props.frame.id } };
  void act(() => ask(api.PATCH("/api/frames/{frame_id}", { params, body: { scene } })));
}

function edit(scene?: Scene): void {
  editing.value = scene;
  open.value = true;
}

function chosen(event: Event): void {
  const select = event.target as HTMLSelectElement;
  const id = Number(select.value);
  if (id !== NEW) return place(id || null);
  select.value = String(props.frame.scene?.id ?? 0);
  edit();
}
</script>

<template>
  <p class="pick">
    <template v-if="canEdit">
      <label>
        <span class="soft">Scene </span>
        <select :value="frame.scene?.id ?? 0" class="quiet-select" @change="chosen">
          <option :value="0">not told</option>
          <option v-for="s in scenes" :key="s.id" :value="s.id">{{ s.name }}</option>
          <option :value="NEW">New scene ...</option>
        </select>
      </label>
      <button v-if="frame.scene" type="button" class="link" @click="edit(frame.scene)">Edit</button>
    </template>
    <span v-else-if="frame.scene"><span class="soft">Scene</span> {{ frame.scene.name }}</span>
    <span class="soft">{{ words }}</span>
    <SceneDialog v-model="open" :scene="editing" @saved="(scene) => editing || place(scene.id)" />
  </p>
</template>

<style scoped>
.pick {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  align-items: baseline;
  margin-top: 4px;
}
</style>
