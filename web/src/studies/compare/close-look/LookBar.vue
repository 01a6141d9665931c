<script setup lang="ts">
import { computed } from "vue";

import type { Look } from "./useLook";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { percent, STEPS } from "@/viewer/geometry";

const props = defineProps<{ look: Look }>();
const emit = defineEmits<{ help: [] }>();
const { study } = useStudyContext();
const place = computed(() => {
  const at = study.value.patches.findIndex((p) => p.id === props.look.patch.value?.id);
  const p = study.value.patches[at];
  const name = props.look.frame.value?.name ?? "";
  return p ? `${p.role}, ${name}, patch ${at + 1} of ${study.value.patches.length}` : name;
});
const match = computed({
  get: () => props.look.match.value,
  set: (to) => props.look.setMatch(to),
});
const chosen = computed({
  get: () => props.look.patch.value?.id,
  set: (id) => {
    const to = study.value.patches.find((p) => p.id === id);
    if (to) props.look.goTo(to);
  },
});
</script>

<template>
  <header class="bar">
    <select v-if="study.patches.length" v-model="chosen" class="title" aria-label="Patch">
      <option v-for="p in study.patches" :key="p.id" :value="p.id">{{ p.name }}</option>
    </select>
    <strong v-else class="title">{{ look.frame.value?.name }}</strong>
    <span class="soft">{{ place }}</span>
    <span class="choice" role="group" aria-label="Magnification of the subject">
      Subject at
      <button
        v-for="s in STEPS"
        :key="s"
        type="button"
        :aria-pressed="look.view.value.zoom === s"
        @click="look.zoomTo(s)"
      >
        {{ percent(s) }}
      </button>
    </span>
    <span class="choice" role="group" aria-label="Panes">
      <button type="button" :disabled="look.letters.value.length < 2" @click="look.fewer()">
        Fewer panes
      </button>
      <button type="button" :disabled="look.letters.value.length > 3" @click="look.more()">
        More panes
      </button>
    </span>
    <label class="choice">
      Brightness
      <select v-model="match" class="quiet-select">
        <option value="none">as made</option>
        <option value="exposure">exposure matched</option>
        <option value="exposure and tone">exposure and tone matched</option>
      </select>
    </label>
    <button type="button" class="link end" @click="emit('help')">Keys</button>
    <router-link :to="`/studies/${study.id}/compare`">Back to the wall</router-link>
  </header>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 24px;
  align-items: baseline;
  padding: 9px 20px;
  border-bottom: 1px solid var(--ink);
  background: var(--paper);
}
.title {
  font: 650 17px var(--display);
  color: var(--ink);
  background: var(--paper);
  border: 0;
  max-width: 260px;
}
.end {
  margin-left: auto;
}
button:disabled {
  color: var(--soft);
  cursor: default;
}
</style>
