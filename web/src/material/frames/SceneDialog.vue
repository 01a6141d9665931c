<script setup lang="ts">
// A scene's name, kinds, and the file of its known lights and edges.
import { ref, watch } from "vue";

import { api, ask, upload } from "@/api/client";
import { SCENE_KINDS, type Scene } from "@/api/queries";
import { useAct } from "@/shared/lib/useAct";
import { knownWords } from "@/shared/lib/words";
import DropZone from "@/shared/ui/DropZone.vue";

const props = defineProps<{ scene?: Scene }>();
const open = defineModel<boolean>({ required: true });
const emit = defineEmits<{ saved: [scene: Scene] }>();
const { busy, act } = useAct();
const name = ref("");
const kinds = ref<Scene["kinds"]>([]);
const known = ref("");

watch(open, (now) => {
  if (!now) return;
  name.value = props.scene?.name ?? "";
  kinds.value = [...(props.scene?.kinds ?? [])];
  known.value = props.scene ? knownWords(props.scene) : "";
});

async function save(): Promise<void> {
  const body = { name: name.value, kinds: kinds.value };
  const id = props.scene?.id;
  const params = { path: { scene_id: id ?? 0 } };
  const made = await act(() =>
    id
      ? ask(api.PUT("/api/scenes/{scene_id}", { params, body }))
      : ask(api.POST("/api/scenes", { body })),
  );
  if (!made) return;
  open.value = false;
  emit("saved", made);
}

async function tell(files: File[]): Promise<void> {
  const file = files[0];
  if (!file || !props.scene) return;
  const url = `/api/scenes/${props.scene.id}/known`;
  const scene = await act(() => upload<Scene>(url, file));
  if (scene) known.value = knownWords(scene);
}

async function forget(): Promise<void> {
  if (!props.scene) return;
  const params = { path: { scene_id: props.scene.id } };
  const made = await act(() => ask(api.DELETE("/api/scenes/{scene_id}/known", { params })));
  if (made) known.value = "";
}
</script>

<template>
  <v-dialog v-model="open" max-width="560">
    <v-card>
      <form class="scene" @submit.prevent="save">
        <h2>{{ scene ? "Scene" : "New scene" }}</h2>
        <v-text-field v-model="name" label="What was photographed" maxlength="120" autofocus />
        <fieldset>
          <legend>Of which kinds it is</legend>
          <label v-for="kind in SCENE_KINDS" :key="kind">
            <input v-model="kinds" type="checkbox" :value="kind" /> {{ kind }}
          </label>
        </fieldset>
        <section v-if="scene" class="known">
          <h3>Known beforehand</h3>
          <p v-if="known">
            {{ known }}.
            <a :href="`/api/scenes/${scene.id}/known`" download="known.json">Download</a>
            <button type="button" class="link" @click="forget">Take it away</button>
          </p>
          <p v-else class="soft">
            Nothing. Lights and edges whose places are known can be told as JSON.
          </p>
          <DropZone
            label="Tell lights and edges"
            small
            accept=".json,application/json"
            @files="tell"
          />
        </section>
        <div class="acts">
          <v-btn type="submit" variant="flat" :loading="busy" :disabled="!name.trim()"
            >Save the scene</v-btn
          >
          <v-btn variant="text" @click="open = false">Cancel</v-btn>
        </div>
      </form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.scene {
  display: grid;
  gap: 16px;
}
fieldset {
  border: 0;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 6px 12px;
}
legend {
  font-weight: 600;
  margin-bottom: 6px;
}
.known {
  display: grid;
  gap: 8px;
}
.known p {
  display: flex;
  gap: 14px;
}
.acts {
  display: flex;
  gap: 10px;
}
</style>
