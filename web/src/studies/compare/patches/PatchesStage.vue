<script setup lang="ts">
import { computed, ref, watch } from "vue";

import { api, ask } from "@/api/client";
import { type Patch, type Suggestion, useSuggestions } from "@/api/queries";
import { useAct } from "@/shared/lib/useAct";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { type Box, untaken } from "./patches";
import CompareTabs from "@/studies/compare/CompareTabs.vue";
import PatchBoard from "./PatchBoard.vue";
import PatchTable from "./PatchTable.vue";
import SuggestionList from "./SuggestionList.vue";

const { study, canEdit } = useStudyContext();
const { act } = useAct();
const ROLES = [
  "flat",
  "shadow",
  "edge",
  "texture",
  "face",
  "lights",
  "print",
  "leave-alone",
] as const;
type Role = (typeof ROLES)[number];
const frameId = ref(study.value.frames[0]?.id);
watch(
  () => study.value.frames.length,
  () => (frameId.value ??= study.value.frames[0]?.id),
);
const role = ref<Role>("texture");
const selected = ref<number>();
const frame = computed(() => study.value.frames.find((f) => f.id === frameId.value));
const patches = computed(() => study.value.patches.filter((p) => p.frame === frameId.value));
const sameScene = computed(() =>
  study.value.frames.some(
    (f) => f.scene && f.scene.id === frame.value?.scene?.id && f.id !== frame.value.id,
  ),
);

async function draw(box: Box): Promise<void> {
  if (!frame.value) return;
  const params = { path: { study_id: study.value.id } };
  const body = { ...box, frame: frame.value.id, role: role.value, name: "" };
  const made = await act(() => ask(api.POST("/api/studies/{study_id}/patches", { params, body })));
  if (made) selected.value = made.id;
}

// Versions that one's own changes led to, before they are read again: several in a row follow each other.
const next = new Map<string, string>();
// Fields are made anew after a refusal, so that they show what is kept.
const refused = ref(0);
let changing: Promise<unknown> = Promise.resolve();

function change(patch: Patch, changes: Partial<Patch>): void {
  const { name, x, y, w, h, role: kind } = { ...patch, ...changes };
  const params = { path: { patch_id: patch.id } };
  const body = { name, role: kind as Role, x, y, w, h };
  changing = changing.then(async () => {
    let version = patch.version;
    for (let later = next.get(version); later; later = next.get(version)) version = later;
    const headers = { "If-Match": version };
    const made = await act(() =>
      ask(api.PUT("/api/patches/{patch_id}", { params, body, headers })),
    );
    if (!made) {
      next.clear();
      refused.value++;
    } else if (made.version !== version) {
      next.set(version, made.version);
      next.delete(made.version);
    }
  });
}

function remove(patch: Patch): void {
  selected.value = undefined;
  const params = { path: { patch_id: patch.id } };
  void act(() => ask(api.DELETE("/api/patches/{patch_id}", { params })), `${patch.name} removed.`);
}

/** One over each field of the target that the frame shows. */
function addOfTarget(): void {
  if (!frame.value) return;
  const params = { path: { study_id: study.value.id, frame_id: frame.value.id } };
  void act(() =>
    ask(api.POST("/api/studies/{study_id}/frames/{frame_id}/target-patches", { params })),
  );
}

/** The same patch on the other frames of its scene. */
function spread(patch: Patch): void {
  const params = { path: { patch_id: patch.id } };
  void act(
    () => ask(api.POST("/api/patches/{patch_id}/spread", { params })),
    `${patch.name} drawn on the other frames of its scene.`,
  );
}

const suggesting = ref(false);
const { data: suggested } = useSuggestions(frameId, suggesting, () => study.value.id);
const waiting = computed(() => untaken(suggested.value?.suggestions ?? [], patches.value));
watch(frameId, () => (suggesting.value = false));

async function suggest(): Promise<void> {
  if (!frame.value) return;
  const params = { path: { frame_id: frame.value.id } };
  await act(() => ask(api.POST("/api/frames/{frame_id}/suggestions", { params })));
  suggesting.value = true;
}

async function take(chosen: readonly Suggestion[]): Promise<void> {
  const at = frame.value;
  if (!at) return;
  const params = { path: { study_id: study.value.id } };
  for (const { role: kind, x, y, w, h } of chosen) {
    const body = { x, y, w, h, frame: at.id, role: kind as Role, name: "" };
    await act(() => ask(api.POST("/api/studies/{study_id}/patches", { params, body })));
  }
}

function addInTheMiddle(): void {
  const p = frame.value?.picture;
  if (!p) return;
  const w = Math.min(192, Math.floor(p.width / 2));
  const h = Math.min(144, Math.floor(p.height / 2));
  void draw({ x: Math.round((p.width - w) / 2), y: Math.round((p.height - h) / 2), w, h });
}
</script>

<template>
  <div class="toolbar">
    <CompareTabs />
    <label v-if="study.frames.length">
      Frame
      <select v-model="frameId" class="quiet-select">
        <option v-for="f in study.frames" :key="f.id" :value="f.id">{{ f.name }}</option>
      </select>
    </label>
    <template v-if="canEdit && frame">
      <label>
        New patches are
        <select v-model="role" class="quiet-select">
          <option v-for="r in ROLES" :key="r" :value="r">{{ r }}</option>
        </select>
      </label>
      <button type="button" class="link" @click="addInTheMiddle">Add one in the middle</button>
      <button type="button" class="link" @click="suggest">Suggest some</button>
      <button v-if="frame.found" type="button" class="link" @click="addOfTarget">
        Add those of {{ frame.found }}
      </button>
    </template>
  </div>
  <p v-if="!frame" class="soft note">
    There is no frame to draw on yet.
    <router-link :to="`/studies/${study.id}/set-up`">Add one</router-link>.
  </p>
  <p v-else-if="frame.picture.state !== 'ready'" class="soft note">
    {{ frame.picture.problem || "The frame is being taken in." }}
  </p>
  <div v-else class="both">
    <PatchBoard
      :key="frame.id"
      v-model:selected="selected"
      :picture="frame.picture"
      :patches="patches"
      :suggested="suggesting ? waiting : []"
      :can-edit="canEdit"
      @draw="draw"
      @change="change"
      @remove="remove"
    />
    <div>
      <SuggestionList
        v-if="suggesting && canEdit"
        :found="suggested"
        :patches="patches"
        @take="take"
        @close="suggesting = false"
      />
      <PatchTable
        v-model:selected="selected"
        :patches="patches"
        :roles="ROLES"
        :can-edit="canEdit"
        :can-spread="sameScene"
        :refused="refused"
        @change="change"
        @remove="remove"
        @spread="spread"
      />
    </div>
  </div>
</template>

<style scoped>
.note {
  padding: 24px 0;
}
.both {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 400px;
  gap: 20px;
  padding-top: 12px;
}
@media (max-width: 1150px) {
  .both {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
