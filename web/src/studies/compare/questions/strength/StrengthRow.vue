<script setup lang="ts">
// One series as pictures: a patch at every setting, and below it where each step works.
import { computed } from "vue";

import type { Shape } from "@/api/client";
import { useAddress } from "@/shared/lib/useAddress";
import QuietSelect from "@/shared/ui/QuietSelect.vue";
import { evidenceAddress } from "@/studies/compare/questions/queries";
import SeriesCrop from "@/studies/compare/series/SeriesCrop.vue";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { AS_MADE } from "@/viewer/light";

const props = defineProps<{
  series: Shape["StrengthSeriesOut"];
  cells: readonly Shape["StrengthCellOut"][];
}>();
const { study, outputOf } = useStudyContext();
const { inAddress } = useAddress();
const patchId = inAddress("patch", () => String(study.value.patches[0]?.id ?? ""));
const patch = computed(
  () => study.value.patches.find((p) => String(p.id) === patchId.value) ?? study.value.patches[0],
);
const frame = computed(() => study.value.frames.find((f) => f.id === patch.value?.frame));
const patches = computed(() =>
  study.value.patches.map((p) => ({
    value: String(p.id),
    title: `${p.name}, ${study.value.frames.find((f) => f.id === p.frame)?.name ?? ""}`,
  })),
);
const columns = computed(() =>
  props.series.members.flatMap((member) => {
    const contender = study.value.contenders.find((c) => c.letter === member.letter);
    const cell = props.cells.find(
      (c) => c.letter === member.letter && c.frame === (frame.value?.id ?? c.frame),
    );
    return contender ? [{ ...member, contender, cell }] : [];
  }),
);
const told = (setting: number) => `${setting} ${props.series.unit}`.trim();
const percent = (share: number | null | undefined) =>
  share === null || share === undefined ? "–" : `${Math.round(100 * share)} %`;
</script>

<template>
  <section class="block" :aria-label="`${series.title} over ${series.name}`">
    <div class="block-head middle">
      <h2>{{ series.title }} over {{ series.name }}</h2>
      <span class="end row middle">
        <QuietSelect v-if="patches.length" v-model="patchId" label="Patch" :items="patches" />
      </span>
    </div>
    <p v-for="words in series.problems" :key="words" class="rowan small">{{ words }}</p>
    <div class="scroll" tabindex="0" role="region" :aria-label="`${series.title} in pictures`">
      <div class="line">
        <div v-for="column in columns" :key="column.letter">
          <SeriesCrop
            v-if="patch && frame"
            :patch="patch"
            :frame="frame"
            :contender="column.contender"
            :output="outputOf(column.contender, frame)"
            :zoom="1"
            :light="AS_MADE"
            :caption="told(column.setting)"
          />
          <template v-if="column.cell">
            <img
              class="map"
              :src="evidenceAddress(study.id, column.cell.key, 'map')"
              :alt="`Where ${told(column.setting)} works, ${column.cell.name}`"
            />
            <p class="small">
              <span class="mono">{{ percent(column.cell.share.value) }}</span> of the way,
              <span :class="{ rowan: !column.cell.even }">{{
                column.cell.even ? "even" : "uneven"
              }}</span>
            </p>
            <p class="soft small">
              plain: <span class="mono">{{ percent(column.cell.cleaned) }}</span> done,
              <span class="mono">{{ percent(column.cell.untouched) }}</span> not
            </p>
          </template>
        </div>
      </div>
    </div>
    <p class="soft small pt-1">
      Maps: paper where nothing was done, ink where as much as at full strength, chequered where
      full strength does next to nothing.
    </p>
  </section>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
.line {
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: minmax(150px, 1fr);
  gap: 10px;
  align-items: start;
}
.map {
  display: block;
  width: 100%;
  margin-top: 6px;
  image-rendering: pixelated;
}
</style>
