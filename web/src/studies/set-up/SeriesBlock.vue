<script setup lang="ts">
// Bodies over ISO: raw files of one scene are dropped, and the bodies to be compared chosen.
import { computed, ref, watch } from "vue";

import { useScenes } from "@/material/frames/queries";
import { useSceneChanges } from "@/material/frames/mutations";
import DropZone from "@/shared/ui/DropZone.vue";
import { counted } from "@/shared/lib/words";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { send } from "@/uploads/store";

import { useStudyChanges } from "./mutations";
import { useSeriesScenes } from "./queries";
import { isosTold, putFirst } from "./series";

const { study, canEdit } = useStudyContext();
const { data: scenes } = useSeriesScenes(() => study.value.id);
const { data: all } = useScenes();
const { save } = useSceneChanges();
const { busy, takeSeries } = useStudyChanges(() => study.value.id);
const name = ref("");
const chosen = ref<number>();
const scene = computed(() => scenes.value?.find((s) => s.id === chosen.value));
const bodies = ref<string[]>([]);
const first = ref("");
watch(
  scenes,
  (now) => {
    const shown = study.value.frames.find((f) => f.scene)?.scene?.id;
    chosen.value ??=
      now?.find((s) => s.id === shown)?.id ?? now?.find((s) => s.bodies.length > 1)?.id;
  },
  { immediate: true },
);
watch(
  scene,
  (now) => {
    if (!now) return;
    bodies.value = now.bodies.map((b) => b.body);
    const held = study.value.contenders.find((c) => c.kind === "unprocessed")?.title ?? "";
    first.value = bodies.value.includes(held) ? held : (bodies.value[0] ?? "");
  },
  { immediate: true },
);
const names = computed(() => (all.value ?? []).map((s) => s.name));

/** Files of a scene by its name; a new one is made. */
async function dropped(files: File[]): Promise<void> {
  const wanted = name.value.trim();
  const kept = all.value?.find((s) => s.name === wanted)?.id;
  const id = kept ?? (await save(undefined, { name: wanted, kinds: [] }))?.id;
  if (id !== undefined) send({ kind: "scene frame", scene: id }, files);
}
</script>

<template>
  <section class="block" aria-label="Bodies over ISO">
    <div class="block-head">
      <h2>Bodies over ISO</h2>
      <span class="soft"
        >Raw files of one still scene, each exposure twice and nothing moved between the two; body,
        ISO and exposure are read from the files.</span
      >
    </div>
    <template v-if="scenes?.length">
      <v-select
        v-model="chosen"
        label="Scene"
        :items="scenes.map((s) => ({ value: s.id, title: s.name }))"
        max-width="320"
        hide-details
        class="py-2"
      />
      <v-table v-if="scene">
        <thead>
          <tr>
            <th scope="col">Compare</th>
            <th scope="col">Body</th>
            <th scope="col">ISO values</th>
            <th scope="col" class="number">Raw files</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="b in scene.bodies" :key="b.body">
            <td>
              <v-checkbox
                v-model="bodies"
                :value="b.body"
                :aria-label="`Compare ${b.body}`"
                :disabled="!canEdit"
                hide-details
                density="compact"
                class="tick"
              />
            </td>
            <td>{{ b.body }}</td>
            <td class="mono small">{{ isosTold(b.isos) }}</td>
            <td class="mono number">{{ b.frames }}</td>
          </tr>
        </tbody>
      </v-table>
      <ul v-if="scene?.doubts.length" class="pl-5 py-2">
        <li v-for="words in scene.doubts" :key="words">{{ words }}</li>
      </ul>
      <div v-if="canEdit && scene" class="d-flex flex-wrap align-end py-3 ga-3">
        <v-select
          v-model="first"
          label="Others are held against"
          :items="bodies"
          max-width="320"
          hide-details
        />
        <v-btn
          variant="flat"
          height="40"
          :loading="busy"
          :disabled="bodies.length < 2 || !first"
          @click="takeSeries(scene.id, putFirst(bodies, first))"
          >Compare {{ counted(bodies.length, "body", "bodies") }}</v-btn
        >
      </div>
    </template>
    <div v-if="canEdit" class="drop pt-3">
      <v-combobox
        v-model="name"
        label="Scene of the files to come"
        :items="names"
        maxlength="120"
        max-width="320"
        hide-details
        class="pb-2"
      />
      <DropZone
        v-if="name?.trim()"
        label="Add raw files"
        hint="of all bodies at once, or drop them here. Files that are on the bench already stay where they are."
        multiple
        @files="dropped"
      />
      <p v-else class="soft">Name the scene first; then its files can be added.</p>
    </div>
  </section>
</template>

<style scoped>
.tick :deep(.v-selection-control) {
  min-height: 28px;
}
td {
  vertical-align: middle;
}
</style>
