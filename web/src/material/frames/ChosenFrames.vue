<script setup lang="ts">
// What can be done with the frames that are chosen: one as truth of the others, their mean as truth of all.
import { computed } from "vue";

import { api, ask } from "@/api/client";
import type { Frame } from "@/api/queries";
import { useAct } from "@/shared/lib/useAct";
import { counted } from "@/shared/lib/words";

const props = defineProps<{ chosen: readonly Frame[] }>();
const emit = defineEmits<{ done: [] }>();
const { busy, act } = useAct();
const iso = (f: Frame) => f.picture.facts?.iso ?? 0;
const one = <T,>(values: T[]) => new Set(values).size === 1;
const sameBody = computed(() => one(props.chosen.map((f) => f.picture.facts?.camera)));
const base = computed(() => [...props.chosen].sort((a, b) => iso(a) - iso(b))[0]);
const others = computed(() => props.chosen.filter((f) => f.id !== base.value?.id));
const whyNoTwin = computed(() => {
  if (props.chosen.length < 2) return "choose the base-ISO frame and those it is the truth of";
  if (!sameBody.value) return "they come from different bodies";
  const lowest = base.value ? iso(base.value) : 0;
  return others.value.some((f) => iso(f) <= lowest)
    ? "one must have a lower ISO than all others"
    : "";
});
const whyNoBurst = computed(() => {
  if (props.chosen.length < 3) return "choose at least three shots of one scene";
  return sameBody.value && one(props.chosen.map(iso)) ? "" : "a burst has one body and one ISO";
});

async function twins(): Promise<void> {
  if (!base.value) return;
  const body = { base: base.value.id, frames: others.value.map((f) => f.id) };
  const made = await act(
    () => ask(api.POST("/api/twins", { body })),
    "Being made; the queue shows how far.",
  );
  if (made) emit("done");
}

async function burst(): Promise<void> {
  const body = { frames: props.chosen.map((f) => f.id) };
  const made = await act(
    () => ask(api.POST("/api/bursts", { body })),
    "Being made; the queue shows how far.",
  );
  if (made) emit("done");
}
</script>

<template>
  <div v-if="chosen.length" class="bar" role="region" aria-label="Chosen frames">
    <strong>{{ counted(chosen.length, "frame") }} chosen</strong>
    <span>
      <v-btn size="small" :disabled="!!whyNoTwin || busy" @click="twins">
        {{ whyNoTwin || !base ? "Base-ISO twin" : `Make ${base.name} the truth of the others` }}
      </v-btn>
      <span v-if="whyNoTwin" class="soft why">{{ whyNoTwin }}</span>
    </span>
    <span>
      <v-btn size="small" :disabled="!!whyNoBurst || busy" @click="burst"
        >Make their mean the truth</v-btn
      >
      <span v-if="whyNoBurst" class="soft why">{{ whyNoBurst }}</span>
    </span>
    <button type="button" class="link end" @click="emit('done')">Choose none</button>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 24px;
  align-items: center;
  padding: 9px 12px;
  background: var(--sheet);
  border: 1px solid var(--ink);
  position: sticky;
  bottom: 12px;
  z-index: 2;
  margin-top: 14px;
}
.why {
  margin-left: 8px;
}
.end {
  margin-left: auto;
}
</style>
