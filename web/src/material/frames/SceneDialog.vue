<script setup lang="ts">
// A scene's name, kinds, and the file of its known lights and edges.
import { ref, watch } from "vue";

import type { Scene } from "@/api/types";
import { knownWords } from "@/shared/lib/words";
import DropZone from "@/shared/ui/DropZone.vue";

import { useSceneChanges } from "./mutations";
import { SCENE_KINDS } from "./queries";

const props = defineProps<{ scene?: Scene }>();
const open = defineModel<boolean>({ required: true });
const emit = defineEmits<{ saved: [scene: Scene] }>();
const changes = useSceneChanges();
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
  const made = await changes.save(props.scene?.id, { name: name.value, kinds: kinds.value });
  if (!made) return;
  open.value = false;
  emit("saved", made);
}

async function set(files: File[]): Promise<void> {
  const file = files[0];
  if (!file || !props.scene) return;
  const scene = await changes.setLandmarks(props.scene.id, file);
  if (scene) known.value = knownWords(scene);
}

async function remove(): Promise<void> {
  if (props.scene && (await changes.removeLandmarks(props.scene.id))) known.value = "";
}

const named = (text: string): true | string => !!text.trim() || "A scene needs a name.";
</script>

<template>
  <v-dialog v-model="open" :aria-label="scene ? 'Edit scene' : 'Add scene'">
    <v-card>
      <v-form class="stack" @submit.prevent="save">
        <h2>{{ scene ? "Edit scene" : "Add scene" }}</h2>
        <v-text-field
          v-model="name"
          label="What was photographed"
          maxlength="120"
          autofocus
          :rules="[named]"
        />
        <fieldset style="--at-least: 150px" class="kinds in-grid tiles">
          <legend class="strong">Kinds of scene</legend>
          <v-checkbox
            v-for="kind in SCENE_KINDS"
            :key="kind"
            v-model="kinds"
            :label="kind"
            :value="kind"
          />
        </fieldset>
        <section v-if="scene" class="stack" aria-label="Landmarks">
          <h3>Landmarks</h3>
          <p v-if="known" class="row">
            {{ known }}.
            <a :href="`/api/scenes/${scene.id}/known`" download="landmarks.json">Download</a>
            <TextAction @click="remove">Remove</TextAction>
          </p>
          <p v-else class="soft">
            None. Lights and edges whose places are known can be given as a JSON file.
          </p>
          <DropZone label="Add landmarks" small accept=".json,application/json" @files="set" />
        </section>
        <div class="dialog-acts">
          <v-btn type="submit" variant="flat" :loading="changes.busy.value" :disabled="!name.trim()"
            >Save</v-btn
          >
          <v-btn variant="text" @click="open = false">Cancel</v-btn>
        </div>
      </v-form>
    </v-card>
  </v-dialog>
</template>
