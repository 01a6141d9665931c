<script setup lang="ts">
// What can be done with the frames that are chosen: one as truth of the others, their mean as truth
// of all.
import { computed } from "vue";

import type { Frame } from "@/api/types";
import FrameTerms from "@/material/terms/FrameTerms.vue";
import { counted } from "@/shared/lib/words";

import { useFrameChanges } from "./mutations";

const props = defineProps<{ chosen: readonly Frame[] }>();
const emit = defineEmits<{ done: [] }>();
const changes = useFrameChanges();
const iso = (f: Frame) => f.picture.facts?.iso ?? 0;
const one = <T,>(values: T[]) => new Set(values).size === 1;
const sameBody = computed(() => one(props.chosen.map((f) => f.picture.facts?.camera)));
const base = computed(() => [...props.chosen].sort((a, b) => iso(a) - iso(b))[0]);
const others = computed(() => props.chosen.filter((f) => f.id !== base.value?.id));
const whyNoTwin = computed(() => {
  if (props.chosen.length < 2) return "select a base-ISO frame and those it is the truth of";
  if (!sameBody.value) return "they come from different bodies";
  const lowest = base.value ? iso(base.value) : 0;
  return others.value.some((f) => iso(f) <= lowest)
    ? "one must have a lower ISO than all others"
    : "";
});
const whyNoBurst = computed(() => {
  if (props.chosen.length < 3) return "select at least three shots of one scene";
  return sameBody.value && one(props.chosen.map(iso)) ? "" : "a burst has one body and one ISO";
});

async function twins(): Promise<void> {
  if (!base.value) return;
  const frames = others.value.map((f) => f.id);
  if (await changes.makeTwins(base.value.id, frames)) emit("done");
}

async function burst(): Promise<void> {
  if (await changes.makeBurst(props.chosen.map((f) => f.id))) emit("done");
}
</script>

<template>
  <div
    v-if="chosen.length"
    class="bar row middle position-sticky mt-4"
    role="region"
    aria-label="Selected frames"
  >
    <strong>{{ counted(chosen.length, "frame") }} selected</strong>
    <span>
      <v-btn size="small" :disabled="!!whyNoTwin || changes.busy.value" @click="twins">
        {{
          whyNoTwin || !base
            ? "Use base-ISO twin as truth"
            : `Use ${base.name} as truth of the others`
        }}
      </v-btn>
      <span v-if="whyNoTwin" class="soft ml-2">{{ whyNoTwin }}</span>
    </span>
    <span>
      <v-btn size="small" :disabled="!!whyNoBurst || changes.busy.value" @click="burst"
        >Use their mean as truth</v-btn
      >
      <span v-if="whyNoBurst" class="soft ml-2">{{ whyNoBurst }}</span>
    </span>
    <FrameTerms v-slot="{ act }" :frames="chosen" can-edit>
      <v-btn size="small" @click="act">Licence and credit</v-btn>
    </FrameTerms>
    <TextAction class="end" @click="emit('done')">Clear selection</TextAction>
  </div>
</template>

<style scoped>
.bar {
  bottom: 12px;
  z-index: 2;
  padding: 9px 12px;
  background: var(--sheet);
  border: 1px solid var(--ink);
}
</style>
