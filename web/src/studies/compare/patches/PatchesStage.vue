<script setup lang="ts">
import { computed, ref, watch } from "vue";

import type { Patch, Suggestion } from "@/api/types";
import QuietSelect from "@/shared/ui/QuietSelect.vue";
import CompareTabs from "@/studies/compare/CompareTabs.vue";
import { useSuggestions } from "@/studies/compare/queries";
import { markedFrame, useFigures } from "@/studies/shared/figures/figures";
import { useStudyContext } from "@/studies/shared/useStudyContext";

import { type Role, useAskSuggestions, usePatchChanges } from "./mutations";
import { type Box, untaken } from "./patches";
import PatchBoard from "./PatchBoard.vue";
import PatchTable from "./PatchTable.vue";
import SuggestionList from "./SuggestionList.vue";
import { usePatchEdits } from "./usePatchEdits";

const { study, columns, canEdit } = useStudyContext();
const changes = usePatchChanges(() => study.value.id);
const askSuggestions = useAskSuggestions();
const ROLES: readonly Role[] = [
  "flat",
  "shadow",
  "edge",
  "texture",
  "face",
  "lights",
  "print",
  "leave-alone",
];
const roles = ROLES.map((r) => ({ value: r, title: r }));
const frameId = ref(study.value.frames[0]?.id);
watch(
  () => study.value.frames.length,
  () => (frameId.value ??= study.value.frames[0]?.id),
);
const frames = computed(() => study.value.frames.map((f) => ({ value: f.id, title: f.name })));
const role = ref<Role>("texture");
const selected = ref<number>();
const frame = computed(() => study.value.frames.find((f) => f.id === frameId.value));
const kept = computed(() => study.value.patches.filter((p) => p.frame === frameId.value));
const { patches, change, refused } = usePatchEdits(kept, changes.change);
const sameScene = computed(() =>
  study.value.frames.some(
    (f) => f.scene && f.scene.id === frame.value?.scene?.id && f.id !== frame.value.id,
  ),
);

async function draw(box: Box): Promise<void> {
  if (!frame.value) return;
  const made = await changes.draw(frame.value.id, role.value, box);
  if (made) selected.value = made.id;
}

function remove(patch: Patch): void {
  selected.value = undefined;
  changes.remove(patch);
}

const figures = useFigures(() => study.value.id);
/** The contender that shows the frame: as it came, where that takes part. */
const shownBy = computed(
  () => (columns.value.find((c) => c.kind === "unprocessed") ?? columns.value[0])?.letter,
);

const suggesting = ref(false);
const { data: suggested } = useSuggestions(frameId, suggesting, () => study.value.id);
const waiting = computed(() => untaken(suggested.value?.suggestions ?? [], patches.value));
watch(frameId, () => (suggesting.value = false));

async function suggest(): Promise<void> {
  if (!frame.value) return;
  await askSuggestions(frame.value.id);
  suggesting.value = true;
}

async function take(chosen: readonly Suggestion[]): Promise<void> {
  const at = frame.value;
  if (!at) return;
  for (const one of chosen) await changes.draw(at.id, one.role as Role, one);
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
    <span class="end row middle">
      <QuietSelect v-if="frames.length" v-model="frameId" label="Frame" :items="frames" />
      <template v-if="canEdit && frame">
        <QuietSelect v-model="role" label="Patch type" :items="roles" />
        <v-btn height="30" @click="addInTheMiddle">Add patch</v-btn>
        <v-btn height="30" @click="suggest">Suggest patches</v-btn>
        <v-btn v-if="frame.found" height="30" @click="changes.drawOfTarget(frame.id)">
          Add fields of {{ frame.found }}
        </v-btn>
      </template>
    </span>
  </div>
  <v-empty-state
    v-if="!frame"
    title="No frame to draw on"
    text="Patches are drawn on the frames of a study."
  >
    <template #actions>
      <v-btn :to="`/studies/${study.id}/set-up`">Add frames</v-btn>
    </template>
  </v-empty-state>
  <p v-else-if="frame.picture.state !== 'ready'" class="soft py-6">
    {{ frame.picture.problem || "The frame is being read." }}
  </p>
  <div v-else class="both in-grid ga-5 pt-2">
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
    <div class="lists overflow-y-auto pr-2">
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
        :roles="roles"
        :can-edit="canEdit"
        :can-spread="sameScene"
        :refused="refused"
        @change="change"
        @remove="remove"
        @spread="changes.spread"
      />
      <p v-if="patches.length" class="pt-4">
        <v-btn :to="`/studies/${study.id}/compare`">Show on the wall</v-btn>
        <v-btn
          v-if="canEdit && shownBy"
          class="ml-2"
          title="The whole frame with its patches marked, as a figure"
          :loading="figures.busy.value"
          @click="figures.take(markedFrame(frame, shownBy))"
          >Into the report</v-btn
        >
      </p>
    </div>
  </div>
</template>

<style scoped>
.both {
  grid-template-columns: minmax(0, 1fr) 400px;
}
.lists {
  max-height: calc(100dvh - var(--bar) - var(--ruler) - var(--tools) - 20px);
}
@media (max-width: 1150px) {
  .both {
    grid-template-columns: minmax(0, 1fr);
  }
  .lists {
    max-height: none;
  }
}
</style>
