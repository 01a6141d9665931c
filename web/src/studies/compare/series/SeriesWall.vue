<script setup lang="ts">
// One patch over ISO: a row for each body, a column for each ISO; at the same ISO, or where the
// bodies are equally noisy.
import { computed } from "vue";

import type { Contender, Frame, Patch, SeriesFound } from "@/api/types";
import { useAddress } from "@/shared/lib/useAddress";
import ChoiceBar from "@/shared/ui/ChoiceBar.vue";
import LetterBox from "@/shared/ui/LetterBox.vue";
import QuietSelect from "@/shared/ui/QuietSelect.vue";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { AS_MADE, LIFTS } from "@/viewer/light";

import { aheadAt, type Basis, type Size } from "./series";
import SeriesCrop from "./SeriesCrop.vue";

const props = defineProps<{ found: SeriesFound; spot: number; size: Size; basis: Basis }>();
const { study, outputOf } = useStudyContext();
const { inAddress } = useAddress();
const lift = inAddress("lift", () => "0");
const beside = inAddress("beside", () => "iso");
const zoom = inAddress("zoom", () => "1");

const patch = computed<Patch | undefined>(() =>
  study.value.patches.find((p) => p.id === props.found.spots[props.spot]?.patch),
);
const isoOf = (f: Frame): number => f.picture.facts?.iso ?? 0;
const frames = computed(() =>
  study.value.frames.filter((f) => isoOf(f) > 0).sort((a, b) => isoOf(a) - isoOf(b)),
);
const light = computed(() => ({
  ...AS_MADE,
  lift: LIFTS.find((l) => String(l) === lift.value) ?? 0,
  match: props.basis === "equally bright" ? ("exposure" as const) : ("none" as const),
}));
const lifts = LIFTS.filter((l) => l >= 0).map((l) => ({
  value: String(l),
  title: l ? `by ${l} EV` : "as shot",
}));
const told = (iso: number) =>
  `ISO ${iso.toLocaleString("en-GB", { maximumSignificantDigits: 3, maximumFractionDigits: 0 })}`;

interface Shown {
  key: string;
  frame: Frame;
  caption: string;
}

/** What stands in a body's row: its shot of each ISO, or the one as noisy as the first body's. */
function shown(contender: Contender, index: number): (Shown | undefined)[] {
  const same = aheadAt(props.found, props.spot, props.size, props.basis).find(
    (a) => a.one === 0 && a.other === index,
  );
  return frames.value.map((frame) => {
    const iso = isoOf(frame);
    if (beside.value === "iso" || index === 0)
      return { key: `${contender.id}/${frame.id}`, frame, caption: told(iso) };
    const stop = same?.stops.find((s) => s.iso === iso);
    const there =
      stop && frames.value.find((f) => Math.abs(Math.log2(isoOf(f) / stop.shot)) < 0.35);
    if (!stop || !there) return undefined;
    return {
      key: `${contender.id}/${frame.id}/${there.id}`,
      frame: there,
      caption: `${told(isoOf(there))}, as noisy at ${told(stop.alike).slice(4)}`,
    };
  });
}

const rows = computed(() =>
  props.found.bodies.flatMap((body, i) => {
    const contender = study.value.contenders.find((c) => c.letter === body.letter);
    return contender ? [{ contender, cells: shown(contender, i) }] : [];
  }),
);
</script>

<template>
  <section v-if="patch" class="block" aria-label="The patch over ISO">
    <div class="block-head middle">
      <h2>{{ patch.name }} over ISO</h2>
      <span class="end row middle ga-2">
        <QuietSelect v-model="lift" label="Lifted" :items="lifts" />
        <ChoiceBar
          v-model="beside"
          label="Side by side"
          :items="[
            { value: 'iso', title: 'same ISO' },
            { value: 'noise', title: 'same noise' },
          ]"
        />
        <ChoiceBar
          v-model="zoom"
          label="Subject at"
          :items="[
            { value: '1', title: '100 %' },
            { value: '2', title: '200 %' },
          ]"
        />
      </span>
    </div>
    <div class="scroll" tabindex="0" role="region" aria-label="Crops by body and ISO">
      <div v-for="row in rows" :key="row.contender.id" class="line py-1">
        <div class="head pt-1">
          <span class="d-flex ga-2 align-center"
            ><LetterBox :letter="row.contender.letter" /> {{ row.contender.title }}</span
          >
        </div>
        <template v-for="(cell, i) in row.cells" :key="i">
          <SeriesCrop
            v-if="cell"
            :patch="patch"
            :frame="cell.frame"
            :contender="row.contender"
            :output="outputOf(row.contender, cell.frame)"
            :zoom="Number(zoom)"
            :light="light"
            :caption="cell.caption"
          />
          <p v-else class="soft small pa-2">no shot is as noisy</p>
        </template>
      </div>
    </div>
  </section>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
.line {
  display: grid;
  grid-auto-flow: column;
  grid-template-columns: 150px;
  grid-auto-columns: minmax(132px, 1fr);
  gap: 8px;
}
.head {
  position: sticky;
  left: 0;
  background: rgb(var(--v-theme-background));
  z-index: 1;
}
</style>
