<script setup lang="ts">
import { computed, defineAsyncComponent, ref } from "vue";

import { useReadings } from "@/studies/compare/queries";
import { useAddress } from "@/shared/lib/useAddress";
import { usePreference } from "@/shared/lib/usePreference";
import ChoiceBar from "@/shared/ui/ChoiceBar.vue";
import LetterBox from "@/shared/ui/LetterBox.vue";
import { titled } from "@/shared/lib/words";
import BasisSelect from "@/studies/compare/BasisSelect.vue";
import CompareTabs from "@/studies/compare/CompareTabs.vue";
import MeasureSelect from "@/studies/compare/MeasureSelect.vue";
import FairLine from "@/studies/shared/FairLine.vue";
import { lightTold } from "@/studies/compare/lights";
import { useLight } from "@/studies/compare/useLight";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { percent, STEPS } from "@/viewer/geometry";
import { lightWords } from "@/viewer/light";

import ColumnHead from "./ColumnHead.vue";
import { lettersIn } from "./columns";
import CropCell from "./CropCell.vue";
import SpotHead from "./SpotHead.vue";
import { useWall } from "./useWall";
import WallFilter from "./WallFilter.vue";

const SheetDialog = defineAsyncComponent(() => import("./SheetDialog.vue"));
const { study, canEdit, outputOf } = useStudyContext();
const { inAddress } = useAddress();
const { data: readings } = useReadings(() => study.value.id);
const kept = usePreference<string>("wall-zoom", "2");
const wall = useWall(() => readings.value);
const { rows, seen, chosen, turned, shown, basis } = wall;

const zoom = inAddress("zoom", () => kept.value);
const crops = inAddress("crops");
const sheet = ref(false);
const light = useLight();
const under = computed(() => lightWords(light.value, light.value.match !== "none"));
const steps = STEPS.map((step) => ({ value: String(step), title: percent(step) }));
const magnification = computed({
  get: () => zoom.value,
  set: (value: string) => {
    kept.value = value;
    zoom.value = value;
  },
});
const held = computed(() => {
  const letters = lettersIn(wall.held.value);
  return new Map(seen.value.filter((c) => letters.includes(c.letter)).map((c, i) => [c.letter, i]));
});
/** Held columns stay beside the heads of the rows while the others pass. */
const holding = (letter: string) =>
  held.value.has(letter)
    ? {
        position: "sticky" as const,
        left: `${128 + 176 * (held.value.get(letter) ?? 0)}px`,
        zIndex: 1,
      }
    : {};
const count = computed(() => (turned.value ? rows.value.length : seen.value.length));
const look = computed(() => {
  const of = chosen.value;
  if (!of) return "";
  const { spot } = of;
  const panes = seen.value.map((c) => c.letter).filter((l) => of.letters.includes(l));
  const place =
    spot.patch === undefined
      ? { frame: spot.frame, x: spot.x + spot.w / 2, y: spot.y + spot.h / 2 }
      : { patch: spot.patch };
  return {
    path: `/studies/${study.value.id}/look`,
    query: { ...place, panes: panes.join(","), zoom: zoom.value, ...lightTold(light.value) },
  };
});
</script>

<template>
  <div class="toolbar">
    <CompareTabs />
    <span class="end row middle ga-2">
      <v-btn v-if="chosen" height="30" variant="flat" :to="look"
        >Look at {{ chosen.letters.length }}</v-btn
      >
      <ChoiceBar v-model="magnification" label="Subject at" :items="steps" />
      <MeasureSelect v-if="readings" v-model="shown" main :measures="readings.measures" />
      <BasisSelect v-model="basis" />
      <WallFilter
        v-model:light="light"
        v-model:crops="crops"
        :wall="wall"
        :measures="readings?.measures ?? []"
      />
      <v-btn v-if="rows.length" height="30" @click="sheet = true">Sheet</v-btn>
    </span>
  </div>
  <SheetDialog v-if="sheet" v-model="sheet" :wall="wall" :light="light" />
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
      :class="{ large: crops === 'large' }"
      :style="{
        gridTemplateColumns: `128px repeat(${count}, minmax(${crops === 'large' ? 320 : 168}px, 1fr))`,
      }"
    >
      <div class="corner position-sticky shrinks py-1 rule-below">
        <FairLine short />
        <p v-if="under" class="soft small">Crops: {{ under }}</p>
      </div>
      <template v-if="!turned">
        <div
          v-for="c in seen"
          :key="c.id"
          class="column position-sticky shrinks py-1 rule-below"
          :style="held.has(c.letter) ? { ...holding(c.letter), zIndex: 3 } : {}"
        >
          <ColumnHead :contender="c" :wall="wall" />
        </div>
        <template v-for="row in rows" :key="row.spot.key">
          <div class="what position-sticky hair-below">
            <SpotHead :spot="row.spot" :told="row.told" />
          </div>
          <CropCell
            v-for="c in seen"
            :key="c.id"
            :style="holding(c.letter)"
            :class="{ held: held.has(c.letter) }"
            :spot="row.spot"
            :contender="c"
            :output="outputOf(c, row.spot.frame)"
            :told="row.told"
            :zoom="Number(zoom)"
            :light="light"
            :chosen="wall.isChosen(row.spot, c.letter)"
            @choose="wall.choose(row.spot, c.letter)"
          />
        </template>
      </template>
      <template v-else>
        <div
          v-for="row in rows"
          :key="row.spot.key"
          class="column tall position-sticky shrinks py-1 rule-below"
        >
          <SpotHead :spot="row.spot" :told="row.told" />
        </div>
        <template v-for="c in seen" :key="c.id">
          <div class="what position-sticky hair-below">
            <LetterBox :letter="c.letter" />
            <p class="small pt-1">{{ titled(c) }}</p>
          </div>
          <CropCell
            v-for="row in rows"
            :key="row.spot.key"
            :spot="row.spot"
            :contender="c"
            :output="outputOf(c, row.spot.frame)"
            :told="row.told"
            :zoom="Number(zoom)"
            :light="light"
            :chosen="wall.isChosen(row.spot, c.letter)"
            @choose="wall.choose(row.spot, c.letter)"
          />
        </template>
      </template>
    </div>
    <p v-if="!rows.length" class="soft none py-5">No patch of this kind. Change the filter.</p>
  </div>
</template>

<style scoped>
.wall {
  min-width: min-content;
}
.wall.large {
  --crop: clamp(300px, 38vh, 840px);
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
  z-index: 4;
}
.tall,
.corner:has(~ .tall) {
  height: 68px;
}
.what {
  left: 0;
  z-index: 2;
  background: var(--paper);
  padding: 8px 8px 8px 0;
}
.held {
  background: var(--paper);
}
</style>
