<script setup lang="ts">
// A frame's truth: what it is, how it came about, and the ways to one.
import { computed } from "vue";

import { api, ask } from "@/api/client";
import type { Frame } from "@/api/queries";
import { useAct } from "@/shared/lib/useAct";
import { useSending } from "@/uploads/useSending";
import { fileKind } from "@/shared/lib/words";
import DropZone from "@/shared/ui/DropZone.vue";
import SendingList from "@/uploads/SendingList.vue";

const props = defineProps<{ frame: Frame; others: readonly Frame[]; canEdit: boolean }>();
const { act } = useAct();
const { sent, send, drop } = useSending(() => ({ kind: "truth", frame: props.frame.id }));

/** Frames that could be its base-ISO twin: same scene and body, lower ISO; the lowest first. */
const twins = computed(() => {
  const { scene, picture, id } = props.frame;
  const iso = picture.facts?.iso ?? Infinity;
  const fits = (f: Frame) =>
    f.id !== id &&
    f.scene?.id === scene?.id &&
    f.picture.state === "ready" &&
    f.picture.facts?.camera === picture.facts?.camera &&
    (f.picture.facts?.iso ?? 0) < iso &&
    !f.recipe;
  return props.others
    .filter(fits)
    .sort((a, b) => (a.picture.facts?.iso ?? 0) - (b.picture.facts?.iso ?? 0));
});

function makeTwin(event: Event): void {
  const select = event.target as HTMLSelectElement;
  const base = Number(select.value);
  select.value = "";
  if (!base) return;
  const body = { base, frames: [props.frame.id] };
  void act(
    () => ask(api.POST("/api/twins", { body })),
    "Being lined up and matched; the queue shows how far.",
  );
}

function takeAway(): void {
  const params = { path: { frame_id: props.frame.id } };
  void act(
    () => ask(api.DELETE("/api/frames/{frame_id}/truth", { params })),
    "Truth taken away; the file stays.",
  );
}
</script>

<template>
  <div class="truth">
    <template v-if="frame.truth">
      <p class="mono">{{ frame.truth_name }}</p>
      <p v-if="frame.truth.state === 'refused'" class="rowan">{{ frame.truth.problem }}</p>
      <p v-else-if="frame.truth.facts" class="soft">{{ fileKind(frame.truth.facts) }}</p>
      <p v-else class="soft">Being taken in.</p>
      <p v-if="frame.truth_made">
        {{ frame.truth_made.kind === "twin" ? "Base-ISO twin" : "Burst" }}:
        {{ frame.truth_made.words }}.
      </p>
      <p v-if="frame.recipe">The frame was made from it by: {{ frame.made_by }}.</p>
      <p class="acts">
        <a :href="`/api/pictures/${frame.truth.id}/original`">Download</a>
        <button v-if="canEdit" type="button" class="link" @click="takeAway">Take it away</button>
      </p>
    </template>
    <template v-else>
      <p class="soft">None: noise, detail and edges can be measured, error can not.</p>
      <div v-if="canEdit" class="ways">
        <label v-if="twins.length">
          <span class="visually-hidden">Base-ISO twin</span>
          <select class="quiet-select" @change="makeTwin">
            <option value="">Take a base-ISO twin</option>
            <option v-for="t in twins" :key="t.id" :value="t.id">{{ t.name }}</option>
          </select>
        </label>
        <DropZone label="Set a truth" small @files="(files) => send(files.slice(0, 1))" />
      </div>
    </template>
    <SendingList :sending="sent" @drop="drop" />
  </div>
</template>

<style scoped>
.truth {
  display: grid;
  gap: 4px;
  align-content: start;
}
.acts,
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  align-items: center;
}
</style>
