<script setup lang="ts">
import { computed } from "vue";

import { useHelp } from "@/help/useHelp";
import ChoiceBar from "@/shared/ui/ChoiceBar.vue";
import QuietSelect from "@/shared/ui/QuietSelect.vue";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { percent, STEPS } from "@/viewer/geometry";

import { MOST_PANES } from "./panes";
import type { Look } from "./useLook";

const props = defineProps<{ look: Look }>();
const { study } = useStudyContext();
const help = useHelp();
const title = computed(() => {
  const at = study.value.patches.findIndex((p) => p.id === props.look.patch.value?.id);
  const p = study.value.patches[at];
  const name = props.look.frame.value?.name ?? "";
  return p ? `${p.name}, ${p.role}, ${name}, ${at + 1} of ${study.value.patches.length}` : name;
});
const match = computed({
  get: () => props.look.match.value,
  set: props.look.setMatch,
});
const scale = computed({
  get: () => props.look.scale.value,
  set: props.look.setScale,
});
/** Every patch, and every frame as a whole. */
const places = computed(() => [
  ...study.value.patches.map((p) => ({ value: `patch ${p.id}`, title: p.name })),
  ...props.look.ready.value.map((f) => ({ value: `frame ${f.id}`, title: `${f.name}, whole` })),
]);
const place = computed({
  get: () => {
    const patch = props.look.patch.value;
    return patch ? `patch ${patch.id}` : `frame ${props.look.frameId.value}`;
  },
  set: (to) => {
    const [kind, id] = to.split(" ");
    const patch = study.value.patches.find((p) => p.id === Number(id));
    if (kind === "frame") props.look.goToFrame(Number(id));
    else if (patch) props.look.goTo(patch);
  },
});
const zoom = computed({
  get: () => props.look.view.value.zoom,
  set: (to) => props.look.zoomTo(to),
});
const panes = computed({
  get: () => props.look.letters.value.length,
  set: (to) => props.look.resize(to),
});
const steps = STEPS.map((step) => ({ value: step, title: percent(step) }));
const counts = Array.from({ length: MOST_PANES }, (_, i) => ({
  value: i + 1,
  title: String(i + 1),
}));
const SCALES = [
  { value: "subject", title: "subject" },
  { value: "own pixels", title: "own pixels" },
];
const MATCHED = [
  { value: "none", title: "as made" },
  { value: "exposure", title: "exposure matched" },
  { value: "exposure and tone", title: "exposure and tone matched" },
];
</script>

<template>
  <header class="bar d-flex flex-wrap ga-3 align-center">
    <v-btn height="30" :to="`/studies/${study.id}/compare`">Wall</v-btn>
    <h1 class="visually-hidden">{{ title }}</h1>
    <QuietSelect v-model="place" label="Place" :items="places" />
    <QuietSelect v-model="scale" label="Of the" :items="SCALES" />
    <ChoiceBar v-model="zoom" label="Magnification" hide-label :items="steps" />
    <QuietSelect v-model="panes" label="Panes" :items="counts" />
    <QuietSelect v-model="match" label="Brightness" :items="MATCHED" />
    <IconAction class="end" aria-label="Keys and help" @click="help.open.value = true">
      ?
    </IconAction>
  </header>
</template>

<style scoped>
.bar {
  min-height: var(--bar);
  padding: 5px var(--margin);
  border-bottom: 1px solid var(--ink);
}
</style>
