<script setup lang="ts">
// A frame's truth: what it is, how it came about, and the ways to one.
import { computed, ref } from "vue";

import type { Frame } from "@/api/types";
import { isLeaving } from "@/shared/lib/useRemoval";
import { useSending } from "@/uploads/useSending";
import { fileKind } from "@/shared/lib/words";
import DropZone from "@/shared/ui/DropZone.vue";
import QuietSelect from "@/shared/ui/QuietSelect.vue";
import SendingList from "@/uploads/SendingList.vue";

import { useFrameChanges } from "./mutations";

const props = defineProps<{ frame: Frame; others: readonly Frame[]; canEdit: boolean }>();
const changes = useFrameChanges();
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

const base = ref<number | null>(null);
const choices = computed(() => twins.value.map((t) => ({ value: t.id, title: t.name })));

async function makeTwin(id: number | null): Promise<void> {
  if (id) await changes.makeTwins(id, [props.frame.id]);
  base.value = null;
}
const leaving = computed(() => isLeaving(`truth ${props.frame.id}`));
</script>

<template>
  <div class="truth in-grid ga-1 align-content-start">
    <template v-if="frame.truth && !leaving">
      <p class="mono">{{ frame.truth_name }}</p>
      <p v-if="frame.truth.state === 'refused'" class="rowan">{{ frame.truth.problem }}</p>
      <p v-else-if="frame.truth.facts" class="soft">{{ fileKind(frame.truth.facts) }}</p>
      <p v-else class="soft">Being read.</p>
      <p v-if="frame.truth_made">
        {{ frame.truth_made.kind === "twin" ? "Base-ISO twin" : "Burst" }}:
        {{ frame.truth_made.words }}.
      </p>
      <p v-if="frame.recipe">The frame was made from it by: {{ frame.made_by }}.</p>
      <p class="row">
        <a :href="`/api/pictures/${frame.truth.id}/original`">Download</a>
        <TextAction
          v-if="canEdit"
          :aria-label="`Remove the truth of ${frame.name}`"
          @click="changes.removeTruth(frame)"
          >Remove</TextAction
        >
      </p>
    </template>
    <template v-else>
      <p class="soft">None. Noise, detail and edges can be measured; errors cannot.</p>
      <div v-if="canEdit" class="row middle">
        <QuietSelect
          v-if="twins.length"
          v-model="base"
          label="Base-ISO twin"
          :items="choices"
          @update:model-value="makeTwin($event as number | null)"
        />
        <DropZone label="Add truth" small @files="(files) => send(files.slice(0, 1))" />
      </div>
    </template>
    <SendingList :sending="sent" @drop="drop" />
  </div>
</template>
