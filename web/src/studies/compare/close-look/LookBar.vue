<script setup lang="ts">
import { computed } from "vue";

import { useHelp } from "@/help/useHelp";
import ChoiceBar from "@/shared/ui/ChoiceBar.vue";
import QuietSelect from "@/shared/ui/QuietSelect.vue";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { KIND_WORDS, KINDS } from "@/viewer/differences";
import { percent, STEPS } from "@/viewer/geometry";
import { GAINED, GAINS, LIFTS, PLANE_WORDS, PLANES, signed } from "@/viewer/light";

import { ARRANGEMENT_WORDS, ARRANGEMENTS } from "./arrangements";
import LookMore from "./LookMore.vue";
import LookTaking from "./LookTaking.vue";
import type { Look } from "./useLook";
import type { Readout } from "./useReadout";
import type { LookSeeing } from "./useSeeing";
import type { Taking } from "./useTaking";

const props = defineProps<{
  look: Look;
  readout: Readout;
  seeing: LookSeeing;
  title: string;
  taking: Taking;
}>();
const emit = defineEmits<{ life: []; uses: []; screen: [] }>();
const { study, columns, canEdit } = useStudyContext();
const help = useHelp();
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
const light = computed(() => props.look.light);
const arranged = computed(() => props.look.arranged);
const differs = computed(() => arranged.value.arrangement === "difference");
const gain = computed({
  get: () => (differs.value ? arranged.value.gain : light.value.gain),
  set: (to) => {
    if (differs.value) arranged.value.gain = to;
    else light.value.gain = to;
  },
});
/** The steps, and what it is now where that is none of them. */
const steps = computed(() =>
  [...new Set([...STEPS, zoom.value])]
    .sort((a, b) => a - b)
    .map((step) => ({ value: step, title: percent(step) })),
);
const use = computed({ get: () => props.look.use.value, set: props.look.setUse });
const uses = computed(() => [
  { value: "", title: "as made" },
  ...props.seeing.uses.value.map((u) => ({ value: u.id, title: u.name })),
]);
const arrangements = ARRANGEMENTS.map((value) => ({ value, title: ARRANGEMENT_WORDS[value] }));
const lifts = LIFTS.map((value) => ({
  value,
  title: value ? `${signed(value)} EV` : "as made",
}));
const planes = PLANES.map((value) => ({ value, title: PLANE_WORDS[value] }));
const kinds = KINDS.map((value) => ({ value, title: KIND_WORDS[value] }));
const gains = GAINS.map((value) => ({ value, title: `× ${value}` }));
const letters = computed(() => columns.value.map((c) => ({ value: c.letter, title: c.letter })));
</script>

<template>
  <header class="bar d-flex align-center">
    <v-btn height="30" :to="`/studies/${study.id}/compare`">Wall</v-btn>
    <h1 class="visually-hidden">{{ title }}</h1>
    <QuietSelect v-model="place" class="place" label="Place" :items="places" />
    <ChoiceBar
      v-model="arranged.arrangement"
      label="Arrangement"
      hide-label
      :items="arrangements"
    />
    <QuietSelect
      v-if="differs || arranged.arrangement === 'reveal'"
      v-model="arranged.against"
      :label="differs ? 'From' : 'Over'"
      :items="letters"
    />
    <QuietSelect v-model="zoom" label="At" :items="steps" />
    <QuietSelect v-if="differs" v-model="arranged.kind" label="Of" :items="kinds" />
    <QuietSelect v-else v-model="use" class="use" label="Seen as" :items="uses" />
    <v-btn v-if="seeing.use.value" height="30" @click="emit('life')">Life size</v-btn>
    <template v-else-if="!differs">
      <QuietSelect v-model="light.lift" label="Light" :items="lifts" />
      <QuietSelect v-model="light.plane" label="Plane" :items="planes" />
    </template>
    <QuietSelect
      v-if="differs || (!seeing.use.value && GAINED.includes(light.plane))"
      v-model="gain"
      label="Gain"
      :items="gains"
    />
    <LookMore :look="look" :readout="readout" @uses="emit('uses')" @screen="emit('screen')" />
    <LookTaking :taking="taking" :can-edit="canEdit" />
    <IconAction class="end" aria-label="Keys and help" @click="help.open.value = true">
      ?
    </IconAction>
  </header>
</template>

<style scoped>
.bar {
  min-height: var(--bar);
  gap: 4px;
  padding: 5px 10px;
  border-bottom: 1px solid var(--ink);
}
/* All of it in one row of 1280 px, whatever the arrangement: what is chosen is cut first. */
.bar :deep(.quiet) {
  min-width: 72px;
}
.bar > :not(.quiet) {
  flex: none;
}
.bar :deep(.v-field) {
  --v-field-padding-start: 8px;
  --v-field-padding-end: 2px;
}
.place {
  max-width: 176px;
}
.use {
  max-width: 176px;
}
</style>
