<script setup lang="ts">
import { nextTick, onMounted } from "vue";
import { useRoute } from "vue-router";

import { useStudyContext } from "@/studies/shared/useStudyContext";
import { titled } from "@/shared/lib/words";
import BringInTabs from "./BringInTabs.vue";
import CostsBlock from "./CostsBlock.vue";
import FoldersBlock from "@/studies/folders/FoldersBlock.vue";
import LetterBox from "@/shared/ui/LetterBox.vue";
import MadeDownload from "@/shared/ui/MadeDownload.vue";
import { askForLayers } from "./mutations";
import NextStep from "@/studies/shared/NextStep.vue";
import OutputCell from "./OutputCell.vue";
import RunsBlock from "./RunsBlock.vue";

const { study, columns, outputOf, canEdit } = useStudyContext();
const route = useRoute();
/** The cell that a finding's evidence leads to; without a frame, all of the contender. */
const isMarked = (contender: number, frame: number): boolean =>
  [`${contender}-${frame}`, `${contender}-`].includes(String(route.query.cell ?? ""));
onMounted(async () => {
  await nextTick();
  document.querySelector("td.marked")?.scrollIntoView({ block: "center", inline: "center" });
});
const GRIDS = [
  ["frame", "at the frame’s size (.ora)"],
  ["largest", "at the largest output’s size (.ora)"],
] as const;
</script>

<template>
  <div class="toolbar"><BringInTabs /></div>
  <RunsBlock />
  <CostsBlock />
  <FoldersBlock />
  <section class="block">
    <div class="block-head">
      <h2>Outputs and their line-up</h2>
      <span class="soft"
        >Shift and border in output pixels; residual, what scale and shift leave over, in frame
        pixels.</span
      >
    </div>
    <v-empty-state
      v-if="!study.frames.length || columns.length < 2"
      title="Nothing to bring in yet"
      text="Outputs belong to a frame and a contender of the study."
    >
      <template #actions>
        <v-btn :to="`/studies/${study.id}/set-up`">Add frames and contenders</v-btn>
      </template>
    </v-empty-state>
    <div
      v-else
      style="--above: 150px"
      class="scroll"
      tabindex="0"
      role="region"
      aria-label="Outputs and their line-up"
    >
      <v-table class="roomy">
        <thead>
          <tr>
            <th scope="col">Frame</th>
            <th v-for="c in columns" :key="c.id" scope="col">
              <span class="d-flex ga-2 align-center"
                ><LetterBox :letter="c.letter" /> {{ titled(c) }}</span
              >
              <span class="soft manner d-block font-weight-regular">{{ c.manner }}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="f in study.frames" :key="f.id">
            <th scope="row">
              {{ f.name
              }}<span v-if="f.picture.width" class="mono soft size d-block font-weight-regular"
                >{{ f.picture.width }} × {{ f.picture.height }}</span
              >
              <MadeDownload
                class="d-block mt-2"
                :label="`Layers of ${f.name} as OpenRaster`"
                action="Download as layers"
                :choices="GRIDS"
                :ask="(grid) => askForLayers(study.id, f.id, grid)"
                :address="(grid) => `/api/studies/${study.id}/frames/${f.id}/layers?grid=${grid}`"
              />
            </th>
            <td
              v-for="c in columns"
              :id="`cell-${c.id}-${f.id}`"
              :key="c.id"
              :class="{ marked: isMarked(c.id, f.id) }"
            >
              <OutputCell :contender="c" :frame="f" :output="outputOf(c, f)" :can-edit="canEdit" />
            </td>
          </tr>
        </tbody>
      </v-table>
    </div>
  </section>
  <NextStep />
</template>
