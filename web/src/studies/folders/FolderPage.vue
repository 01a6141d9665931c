<script setup lang="ts">
// A folder of outputs finding its place: proposals on a board of cells, corrected by drag or
// keyboard, confirmed, undone.
import { computed, ref } from "vue";

import { useFolder } from "@/studies/folders/queries";
import { useStudy } from "@/studies/shared/queries";
import { useFolderBoard } from "./useFolderBoard";
import { counted, entered } from "@/shared/lib/words";
import { usePageTitle } from "@/shared/lib/useTitle";
import FileChip from "./FileChip.vue";
import FilePanel from "./FilePanel.vue";
import FolderBoard from "./FolderBoard.vue";
import { sending } from "@/uploads/store";

const props = defineProps<{ id: number; folder: number }>();
const { data: study } = useStudy(() => props.id);
const { data: read, error } = useFolder(() => props.folder);
const frames = computed(() => study.value?.frames ?? []);
const contenders = computed(() => (study.value?.contenders ?? []).filter(entered));
const shown = computed(() => read.value);
const { changes, files, placed, cells, without, aside, unsure, place, step } = useFolderBoard(
  () => props.id,
  shown,
  frames,
  contenders,
);
const open = computed(() => shown.value?.state !== "confirmed");
const canEdit = computed(() => study.value?.role !== "viewer" && open.value);
const chosenId = ref<number>();
const chosen = computed(() => files.value.find((f) => f.id === chosenId.value));
const keepPattern = ref(true);
const coming = computed(
  () =>
    sending.value.filter(
      (s) => s.delivery.folder === props.folder && !["done", "known", "refused"].includes(s.state),
    ).length,
);
const decoding = computed(() => files.value.filter((f) => f.picture.state === "waiting").length);
const status = computed(() => {
  if (coming.value) return `${counted(coming.value, "file")} arriving`;
  if (decoding.value) return `${counted(decoding.value, "file")} being read; placed by name so far`;
  if (shown.value?.looking) return "comparing names and contents";
  return "";
});

function put(id: number, contender: number, frame: number): void {
  const file = files.value.find((f) => f.id === id);
  if (file) void place(file, { contender, frame });
}

const confirm = (): Promise<unknown> =>
  changes.confirm(props.folder, keepPattern.value, placed.value.length);
usePageTitle(() => `${read.value?.name ?? "Folder"}, outputs`);
</script>

<template>
  <div class="page">
    <Teleport defer to="#bar-title">
      <router-link to="/studies" class="plain-link crumb">Studies</router-link>
      <router-link :to="`/studies/${id}/bring-in`" class="plain-link crumb">{{
        study?.question ?? ""
      }}</router-link>
    </Teleport>
    <p v-if="error" class="rowan">{{ error.message }}</p>
    <template v-if="shown && study">
      <div class="page-top">
        <div>
          <h1>{{ shown.name }}</h1>
          <p class="soft" role="status">
            {{ counted(files.length, "file") }}, {{ placed.length }} matched<template v-if="unsure"
              >, {{ unsure }} unsure</template
            ><template v-if="without.length">, {{ without.length }} not matched</template>.
            {{ status }}
          </p>
        </div>
        <div v-if="study.role !== 'viewer'" class="row middle">
          <template v-if="open">
            <v-checkbox v-model="keepPattern" label="Remember this naming pattern" />
            <v-btn
              variant="flat"
              :loading="changes.busy.value"
              :disabled="!placed.length || decoding + coming > 0"
              @click="confirm"
            >
              {{ placed.length ? `Add ${counted(placed.length, "output")}` : "Add outputs" }}
            </v-btn>
          </template>
          <template v-else>
            <span>Added. These files are in their cells.</span>
            <v-btn :loading="changes.busy.value" @click="changes.undo(folder)">Undo</v-btn>
          </template>
        </div>
      </div>
      <p v-if="canEdit" class="soft py-2">
        Drag a file to another cell, or select it and move it with <kbd>Alt</kbd> and the arrow
        keys. In a cell that is taken, it replaces the file there.
      </p>
      <div
        style="--columns: minmax(0, 1fr) 330px"
        class="board in-grid ga-8 mt-3 pt-2 align-start columns folds"
      >
        <FolderBoard
          v-model:chosen="chosenId"
          :frames="frames"
          :contenders="contenders"
          :cells="cells"
          :movable="canEdit"
          @put="put"
          @step="step"
        />
        <div style="top: 12px" class="side in-grid ga-4 position-sticky">
          <FilePanel
            v-if="chosen"
            :file="chosen"
            :frames="frames"
            :contenders="contenders"
            :can-edit="canEdit"
            @place="(to) => place(chosen!, to)"
          />
          <p v-else class="soft">
            Select a file to see it beside its frame, and the reasons for its place.
          </p>
          <template
            v-for="[title, list] in [
              ['Not matched', without],
              ['Not used', aside],
            ] as const"
            :key="title"
          >
            <section v-if="list.length">
              <h3>{{ title }}</h3>
              <FileChip
                v-for="file in list"
                :key="file.id"
                :file="file"
                :chosen="file.id === chosenId"
                :movable="canEdit"
                @choose="chosenId = file.id"
                @step="(down, across) => step(file, down, across)"
              />
            </section>
          </template>
        </div>
      </div>
    </template>
  </div>
</template>

<style scoped>
.board {
  border-top: 2px solid var(--ink);
}
</style>
