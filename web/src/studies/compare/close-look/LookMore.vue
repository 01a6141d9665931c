<script setup lang="ts">
// What is changed seldom: panes, what magnification is of, matching, marks, the read-out.
import { computed, ref } from "vue";

import QuietSelect from "@/shared/ui/QuietSelect.vue";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { SHADOWS } from "@/viewer/light";
import { MATCHES } from "@/viewer/matching";

import { RATES } from "./arrangements";
import { MOST_PANES } from "./panes";
import { SIDES, UNITS } from "./readout";
import type { Look } from "./useLook";
import type { Readout } from "./useReadout";

const props = defineProps<{ look: Look; readout: Readout }>();
const open = ref(false);
const emit = defineEmits<{ uses: []; screen: [] }>();
const { columns } = useStudyContext();
/** To a dialog of its own. */
function leave(to: "uses" | "screen"): void {
  open.value = false;
  if (to === "uses") emit("uses");
  else emit("screen");
}
const line = computed({
  get: () => props.look.line.value !== undefined,
  set: props.look.setLine,
});
const loupe = computed({ get: () => props.look.loupe.value, set: props.look.setLoupe });
const light = computed(() => props.look.light);
const arranged = computed(() => props.look.arranged);
const asked = computed(() => props.readout.asked);
const scale = computed({ get: () => props.look.scale.value, set: props.look.setScale });
const panes = computed({
  get: () => props.look.letters.value.length,
  set: (to) => props.look.resize(to),
});
const counts = Array.from({ length: MOST_PANES }, (_, i) => ({
  value: i + 1,
  title: String(i + 1),
}));
const SCALES = [
  { value: "subject", title: "subject" },
  { value: "own pixels", title: "own pixels" },
];
const matches = MATCHES.map((value) => ({
  value,
  title: value === "none" ? "as made" : `${value} matched`,
}));
const shadows = SHADOWS.map((value) => ({ value, title: value === 1 ? "as made" : `γ ${value}` }));
const rates = RATES.map((value) => ({ value, title: value ? `${value} a second` : "by hand" }));
const sides = SIDES.map((value) => ({ value, title: `${value} × ${value} px` }));
const units = UNITS.map((value) => ({ value, title: value }));
const letters = computed(() => columns.value.map((c) => ({ value: c.letter, title: c.letter })));
</script>

<template>
  <v-menu v-model="open" :close-on-content-click="false">
    <template #activator="{ props: opens }">
      <v-btn height="30" v-bind="opens">More</v-btn>
    </template>
    <v-card class="pa-4 in-grid ga-3 more">
      <QuietSelect v-model="panes" label="Panes" :items="counts" />
      <QuietSelect v-model="scale" label="Magnification of the" :items="SCALES" />
      <QuietSelect v-model="light.match" label="Brightness" :items="matches" />
      <QuietSelect v-model="light.shadows" label="Shadows" :items="shadows" />
      <v-checkbox
        v-model="light.clipped"
        label="Mark what is cut off: red at the top, blue at the bottom"
      />
      <v-checkbox v-model="light.beyond" label="Mark colours beyond sRGB" />
      <v-checkbox v-model="line" label="Measure along a line; a drag draws it" />
      <v-checkbox v-model="loupe" label="Loupe at 800 %, where the pointer is" />
      <QuietSelect v-model="arranged.rate" label="In place, turns" :items="rates" />
      <QuietSelect v-model="asked.side" label="Read-out of" :items="sides" />
      <QuietSelect v-model="asked.unit" label="Read-out in" :items="units" />
      <QuietSelect v-model="arranged.against" label="Reference" :items="letters" />
      <div class="d-flex ga-4">
        <TextAction @click="leave('uses')">Uses of your own</TextAction>
        <TextAction @click="leave('screen')">This screen’s pixels</TextAction>
      </div>
    </v-card>
  </v-menu>
</template>

<style scoped>
.more {
  width: 330px;
}
</style>
