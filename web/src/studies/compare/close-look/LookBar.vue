<script setup lang="ts">
import { computed } from "vue";

import { useHelp } from "@/help/useHelp";
import ChoiceBar from "@/shared/ui/ChoiceBar.vue";
import QuietSelect from "@/shared/ui/QuietSelect.vue";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { percent, STEPS } from "@/viewer/geometry";

import type { Look } from "./useLook";

const props = defineProps<{ look: Look }>();
const { study } = useStudyContext();
const help = useHelp();
const place = computed(() => {
  const at = study.value.patches.findIndex((p) => p.id === props.look.patch.value?.id);
  const p = study.value.patches[at];
  const name = props.look.frame.value?.name ?? "";
  return p ? `${p.role}, ${name}, ${at + 1} of ${study.value.patches.length}` : name;
});
const match = computed({
  get: () => props.look.match.value,
  set: (to) => props.look.setMatch(to),
});
const patches = computed(() => study.value.patches.map((p) => ({ value: p.id, title: p.name })));
const chosen = computed({
  get: () => props.look.patch.value?.id ?? null,
  set: (id) => {
    const to = study.value.patches.find((p) => p.id === id);
    if (to) props.look.goTo(to);
  },
});
const zoom = computed({
  get: () => props.look.view.value.zoom,
  set: (to) => props.look.zoomTo(to),
});
const steps = STEPS.map((step) => ({ value: step, title: percent(step) }));
const MATCHED = [
  { value: "none", title: "as made" },
  { value: "exposure", title: "exposure matched" },
  { value: "exposure and tone", title: "exposure and tone matched" },
];
</script>

<template>
  <header class="bar row middle">
    <v-btn height="30" :to="`/studies/${study.id}/compare`">Wall</v-btn>
    <QuietSelect v-if="patches.length" v-model="chosen" label="Patch" :items="patches" />
    <h1 class="place soft">{{ place }}</h1>
    <ChoiceBar v-model="zoom" label="Subject at" :items="steps" />
    <span class="row middle" role="group" aria-label="Panes">
      <TextAction :disabled="look.letters.value.length < 2" @click="look.fewer()">
        Fewer panes
      </TextAction>
      <TextAction :disabled="look.letters.value.length > 3" @click="look.more()">
        More panes
      </TextAction>
    </span>
    <QuietSelect v-model="match" label="Brightness" :items="MATCHED" />
    <TextAction class="end" @click="help.open.value = true">Keys and help</TextAction>
  </header>
</template>

<style scoped>
.bar {
  min-height: var(--bar);
  padding: 5px var(--margin);
  border-bottom: 1px solid var(--ink);
}
.place {
  font: inherit;
}
</style>
