<script setup lang="ts">
// A folder of outputs finding its place: proposals on a board of cells, corrected by drag or keyboard, confirmed, undone.
import { computed, ref } from "vue";

import { api, ask } from "@/api/client";
import { useFolder, useStudy } from "@/api/queries";
import { useFolderBoard } from "./useFolderBoard";
import { counted, entered } from "@/shared/lib/words";
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
const { busy, act, files, placed, cells, without, aside, unsure, place, step } = useFolderBoard(
  shown,
  frames,
  contenders,
);
const open = computed(() => shown.value?.state !== "confirmed");
const canEdit = computed(() => study.value?.role !== "viewer" && open.value);
const chosenId = ref<number>();
const chosen = computed(() => files.value.find((f) => f.id === chosenId.value));
const keepPattern = ref(true);
const params = computed(() => ({ path: { folder_id: props.folder } }));
const coming = computed(
  () =>
    sending.value.filter(
      (s) => s.delivery.folder === props.folder && !["done", "known", "refused"].includes(s.state),
    ).length,
);
const decoding = computed(() => files.value.filter((f) => f.picture.state === "waiting").length);
const status = computed(() => {
  if (coming.value) return `${counted(coming.value, "file")} on the way`;
  if (decoding.value)
    return `${counted(decoding.value, "file")} being decoded; names alone were looked at so far`;
  if (shown.value?.looking) return "names and contents being looked at";
  return "";
});

function put(id: number, contender: number, frame: number): void {
  const file = files.value.find((f) => f.id === id);
  if (file) void place(file, { contender, frame });
}

async function confirm(): Promise<void> {
  const body = { keep_pattern: keepPattern.value };
  await act(
    () => ask(api.POST("/api/folders/{folder_id}/confirm", { params: params.value, body })),
    `${counted(placed.value.length, "file")} brought in.`,
  );
}

const undo = () =>
  act(
    () => ask(api.DELETE("/api/folders/{folder_id}/confirm", { params: params.value })),
    "Undone: every cell holds what it held before.",
  );
</script>

<template>
  <div class="page">
    <p class="back">
      <router-link :to="`/studies/${id}/bring-in`"
        >Back to {{ study?.question ?? "the study" }}</router-link
      >
    </p>
    <p v-if="error" class="rowan">{{ error.message }}</p>
    <template v-if="shown && study">
      <div class="top">
        <div>
          <h1>{{ shown.name }}</h1>
          <p class="soft" role="status">
            {{ counted(files.length, "file") }}, {{ placed.length }} placed<template v-if="unsure"
              >, {{ unsure }} unsure</template
            ><template v-if="without.length">, {{ without.length }} without a place</template>.
            {{ status }}
          </p>
        </div>
        <div v-if="study.role !== 'viewer'" class="acts">
          <template v-if="open">
            <label class="soft"
              ><input v-model="keepPattern" type="checkbox" /> remember this way of naming</label
            >
            <v-btn
              variant="flat"
              :loading="busy"
              :disabled="!placed.length || decoding + coming > 0"
              @click="confirm"
            >
              {{
                placed.length ? `Bring ${counted(placed.length, "file")} in` : "Bring the files in"
              }}
            </v-btn>
          </template>
          <template v-else>
            <span>Confirmed: these files are in their cells.</span>
            <v-btn :loading="busy" @click="undo">Undo</v-btn>
          </template>
        </div>
      </div>
      <p v-if="canEdit" class="soft hint">
        Drag a file to another cell, or choose it and move it with <kbd>Alt</kbd> and the arrow
        keys. A file put into a taken cell sends the other one away.
      </p>
      <div class="board">
        <FolderBoard
          v-model:chosen="chosenId"
          :frames="frames"
          :contenders="contenders"
          :cells="cells"
          :movable="canEdit"
          @put="put"
          @step="step"
        />
        <div class="side">
          <FilePanel
            v-if="chosen"
            :file="chosen"
            :frames="frames"
            :contenders="contenders"
            :can-edit="canEdit"
            @place="(to) => place(chosen!, to)"
          />
          <p v-else class="soft">
            Choose a file to see it beside its frame, and why it was put there.
          </p>
          <template
            v-for="[title, list] in [
              ['Without a place', without],
              ['Left out', aside],
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
.back {
  padding-top: 18px;
}
.top {
  display: flex;
  justify-content: space-between;
  align-items: end;
  gap: 12px 28px;
  flex-wrap: wrap;
  padding-top: 6px;
}
.acts {
  display: flex;
  gap: 18px;
  align-items: center;
}
.hint {
  padding: 10px 0 4px;
}
.board {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 330px;
  gap: 32px;
  border-top: 2px solid var(--ink);
  margin-top: 12px;
  padding-top: 8px;
  align-items: start;
}
.side {
  display: grid;
  gap: 18px;
  position: sticky;
  top: 12px;
}
.side section {
  display: grid;
  gap: 4px;
}
@media (max-width: 1100px) {
  .board {
    grid-template-columns: 1fr;
  }
}
</style>
