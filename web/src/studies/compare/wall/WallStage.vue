<script setup lang="ts">
import { computed, defineAsyncComponent, ref } from "vue";

import { useKeyWords } from "@/help/useHelp";
import { useReadings } from "@/studies/compare/queries";
import { useAddress } from "@/shared/lib/useAddress";
import { usePreference } from "@/shared/lib/usePreference";
import LetterBox from "@/shared/ui/LetterBox.vue";
import QuietSelect from "@/shared/ui/QuietSelect.vue";
import { titled } from "@/shared/lib/words";
import BasisSelect from "@/studies/compare/BasisSelect.vue";
import CompareTabs from "@/studies/compare/CompareTabs.vue";
import MeasureSelect from "@/studies/compare/MeasureSelect.vue";
import FairLine from "@/studies/shared/FairLine.vue";
import { lightTold } from "@/studies/compare/lights";
import { useLight } from "@/studies/compare/useLight";
import { figureOf, useFigures } from "@/studies/shared/figures/figures";
import { useNotices } from "@/shared/lib/useNotices";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { percent, STEPS } from "@/viewer/geometry";
import { lightWords } from "@/viewer/light";

import { lastChances } from "@/studies/shared/sittings/chosen";
import { useSittings } from "@/studies/shared/sittings/queries";

import { callsOf, type NamedAnswer, useNamedCalls } from "@/studies/shared/namedCalls";

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
const { data: sittings } = useSittings(() => study.value.id);
const chances = computed(() => lastChances(sittings.value));
const named = useNamedCalls(() => study.value.id);
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
/** Rows of the wall: spots, or contenders where it is turned round. */
const lines = computed(() =>
  turned.value
    ? seen.value.map((contender) => ({
        key: contender.letter,
        row: undefined,
        contender,
        cells: rows.value.map((row) => ({ row, contender })),
      }))
    : rows.value.map((row) => ({
        key: row.spot.key,
        row,
        contender: undefined,
        cells: seen.value.map((contender) => ({ row, contender })),
      })),
);
const figures = useFigures(() => study.value.id);
const notices = useNotices();
/** The chosen crops of a spot, whole, as large as they fit and are seen here. */
async function intoReport(): Promise<void> {
  const of = chosen.value;
  if (!of) return;
  const { frame, x, y, w, h } = of.spot;
  const letters = seen.value.map((c) => c.letter).filter((l) => of.letters.includes(l));
  const made = figureOf({
    frame,
    part: { x, y, w, h },
    zoom: Number(zoom.value),
    trim: false,
    letters,
    light: light.value,
  });
  if (typeof made === "string") notices.warn(new Error(made));
  else await figures.take(made);
}
useKeyWords([
  { keys: "space", does: "Choose the crop, to look at several together" },
  {
    keys: "alt+arrowup",
    does: "Call the crop better than the reference, names seen; Alt + Down worse, Alt + Enter no difference",
  },
]);
function call(patch: number | undefined, contender: number, answer: NamedAnswer): void {
  if (canEdit.value && patch !== undefined) void named.give(patch, contender, answer);
}
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
      <v-btn v-if="chosen && canEdit" height="30" :loading="figures.busy.value" @click="intoReport"
        >Into the report</v-btn
      >
      <QuietSelect v-model="magnification" label="Subject at" :items="steps" />
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
      class="wall"
      :class="{ large: crops === 'large' }"
      :style="{ '--count': count, '--least': crops === 'large' ? '320px' : '168px' }"
    >
      <div class="row-of in-grid gc-2 heads position-sticky">
        <div class="corner position-sticky shrinks py-1 rule-below">
          <FairLine short />
          <p v-if="under" class="soft small">Crops: {{ under }}</p>
        </div>
        <template v-if="!turned">
          <div
            v-for="c in seen"
            :key="c.id"
            class="column shrinks py-1 rule-below"
            :style="holding(c.letter)"
          >
            <ColumnHead :contender="c" :wall="wall" :chances="chances" />
          </div>
        </template>
        <template v-else>
          <div v-for="row in rows" :key="row.spot.key" class="column tall shrinks py-1 rule-below">
            <SpotHead :spot="row.spot" :told="row.told" />
          </div>
        </template>
      </div>
      <div v-for="line in lines" :key="line.key" class="row-of in-grid gc-2 line">
        <div class="what position-sticky hair-below">
          <SpotHead v-if="line.row" :spot="line.row.spot" :told="line.row.told" />
          <template v-else-if="line.contender">
            <LetterBox :letter="line.contender.letter" />
            <p class="small pt-1">{{ titled(line.contender) }}</p>
          </template>
        </div>
        <CropCell
          v-for="{ row, contender: c } in line.cells"
          :key="`${row.spot.key} ${c.id}`"
          :style="turned ? {} : holding(c.letter)"
          :class="{ held: !turned && held.has(c.letter) }"
          :spot="row.spot"
          :contender="c"
          :output="outputOf(c, row.spot.frame)"
          :told="row.told"
          :zoom="Number(zoom)"
          :light="light"
          :chosen="wall.isChosen(row.spot, c.letter)"
          :calls="callsOf(named.calls.value, row.spot.patch, c.id)"
          @choose="wall.choose(row.spot, c.letter)"
          @call="call(row.spot.patch, c.id, $event)"
        />
      </div>
    </div>
    <p v-if="!rows.length" class="soft none py-5">No patch of this kind. Change the filter.</p>
  </div>
</template>

<style scoped>
.wall {
  --crop: clamp(150px, 18.6vh, 420px);
  min-width: calc(128px + var(--count) * (var(--least) + 8px));
}
.wall.large {
  --crop: clamp(300px, 38vh, 840px);
}
.row-of {
  grid-template-columns: 128px repeat(var(--count), minmax(0, 1fr));
}
/* What is far from sight is neither laid out nor painted: a large wall scrolls like a small one. */
.line {
  content-visibility: auto;
  contain-intrinsic-block-size: auto calc(var(--crop) + 45px);
}
.heads {
  top: 0;
  z-index: 3;
}
.corner,
.column {
  height: 44px;
  background: var(--paper);
}
.corner {
  left: 0;
  z-index: 2;
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
