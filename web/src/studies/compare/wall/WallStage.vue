<script setup lang="ts">
import { computed } from "vue";

import { useReadings } from "@/studies/compare/queries";
import { useAddress } from "@/shared/lib/useAddress";
import { usePreference } from "@/shared/lib/usePreference";
import { titled } from "@/shared/lib/words";
import ChoiceBar from "@/shared/ui/ChoiceBar.vue";
import LetterBox from "@/shared/ui/LetterBox.vue";
import BasisSelect from "@/studies/compare/BasisSelect.vue";
import CompareTabs from "@/studies/compare/CompareTabs.vue";
import MeasureSelect from "@/studies/compare/MeasureSelect.vue";
import FairLine from "@/studies/shared/FairLine.vue";
import { useLight } from "@/studies/compare/useLight";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { percent, STEPS } from "@/viewer/geometry";
import { lightWords } from "@/viewer/light";

import WallFilter from "./WallFilter.vue";
import WallRow from "./WallRow.vue";

const { study, columns, canEdit } = useStudyContext();
const { inAddress } = useAddress();
const { data: readings } = useReadings(() => study.value.id);
const kept = usePreference<string>("wall-zoom", "2");

const zoom = inAddress("zoom", () => kept.value);
const shown = inAddress("measure");
const frame = inAddress("frame");
const role = inAddress("role");
const light = useLight();
const basis = inAddress("readings");
const under = computed(() => lightWords(light.value, light.value.match !== "none"));
const steps = STEPS.map((step) => ({ value: String(step), title: percent(step) }));
const rows = computed(() =>
  study.value.patches.filter(
    (p) =>
      (!frame.value || p.frame === Number(frame.value)) && (!role.value || p.role === role.value),
  ),
);
const magnification = computed({
  get: () => zoom.value,
  set: (value: string) => {
    kept.value = value;
    zoom.value = value;
  },
});
const manner = (c: (typeof columns.value)[number]): string =>
  c.kind === "truth"
    ? "known-good original"
    : c.kind === "unprocessed"
      ? "the frame as it is"
      : c.manner;
</script>

<template>
  <div class="toolbar">
    <CompareTabs />
    <span class="end row middle">
      <ChoiceBar v-model="magnification" label="Subject at" :items="steps" />
      <MeasureSelect v-if="readings" v-model="shown" main :measures="readings.measures" />
      <BasisSelect v-model="basis" />
      <WallFilter v-model:frame="frame" v-model:role="role" v-model:light="light" />
    </span>
  </div>
  <v-empty-state
    v-if="!study.patches.length"
    title="No patches yet"
    text="A patch is a spot that is compared on every output: cloth, a dial, a plain wall, deep shadow, an edge. The wall shows each in a row, the subject equally large in every column."
  >
    <template #actions>
      <v-btn v-if="canEdit" :to="`/studies/${study.id}/patches`">Draw the first patch</v-btn>
    </template>
  </v-empty-state>
  <div
    v-else
    style="--above: calc(var(--bar) + var(--ruler) + var(--tools) + 10px)"
    class="scroll wall-scroll"
    tabindex="0"
    role="region"
    aria-label="Wall"
  >
    <div
      class="wall in-grid gc-2"
      :style="{ gridTemplateColumns: `128px repeat(${columns.length}, minmax(168px, 1fr))` }"
    >
      <div class="corner position-sticky shrinks py-1 rule-below">
        <FairLine short />
        <p v-if="under" class="soft small">Crops: {{ under }}</p>
      </div>
      <div v-for="c in columns" :key="c.id" class="column position-sticky shrinks py-1 rule-below">
        <span
          class="heading d-flex ga-2 align-center text-no-wrap overflow-hidden font-weight-medium"
          ><LetterBox :letter="c.letter" /> {{ titled(c) }}</span
        >
        <v-tooltip v-if="manner(c)" :text="manner(c)" :aria-label="manner(c)">
          <template #activator="{ props }">
            <span
              v-bind="props"
              class="soft manner d-block small overflow-hidden text-no-wrap text-truncate"
              >{{ manner(c) }}</span
            >
          </template>
        </v-tooltip>
      </div>
      <WallRow
        v-for="p in rows"
        :key="p.id"
        :patch="p"
        :zoom="Number(zoom)"
        :shown="shown"
        :readings="readings"
        :basis="basis ? 'matched' : 'as made'"
        :light="light"
      />
    </div>
    <p v-if="!rows.length" class="soft none py-5">No patch of this kind. Change the filter.</p>
  </div>
</template>

<style scoped>
.wall {
  min-width: min-content;
}
.corner,
.column {
  top: 0;
  z-index: 2;
  height: 44px;
  background: var(--paper);
}
.corner {
  left: 0;
  z-index: 3;
}
</style>
