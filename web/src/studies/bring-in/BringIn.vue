<script setup lang="ts">
import { api, ask } from "@/api/client";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { titled } from "@/shared/lib/words";
import BringInTabs from "./BringInTabs.vue";
import CostsBlock from "./CostsBlock.vue";
import FoldersBlock from "@/studies/folders/FoldersBlock.vue";
import LetterBox from "@/shared/ui/LetterBox.vue";
import MadeDownload from "@/shared/ui/MadeDownload.vue";
import OutputCell from "./OutputCell.vue";
import RunsBlock from "./RunsBlock.vue";

const { study, columns, outputOf, canEdit } = useStudyContext();
const GRIDS = [
  ["frame", "at the frame's size (.ora)"],
  ["largest", "at the largest output's (.ora)"],
] as const;

async function askForLayers(frame: number, grid: string): Promise<boolean> {
  const path = { study_id: study.value.id, frame_id: frame };
  const query = { grid: grid === "largest" ? ("largest" as const) : ("frame" as const) };
  const call = api.POST("/api/studies/{study_id}/frames/{frame_id}/layers", {
    params: { path, query },
  });
  return (await ask(call)).ready;
}
</script>

<template>
  <BringInTabs />
  <RunsBlock />
  <CostsBlock />
  <FoldersBlock />
  <section class="block">
    <div class="block-head">
      <h2>Outputs and how they line up</h2>
      <span class="soft"
        >Shift and border in output pixels, residual in frame pixels: what scale and shift leave
        over.</span
      >
    </div>
    <div v-if="!study.frames.length || columns.length < 2" class="soft">
      There is nothing to bring in yet.
      <router-link :to="`/studies/${study.id}/set-up`">Add frames and contenders</router-link>
      first.
    </div>
    <div v-else class="scroll">
      <table class="plain cells">
        <thead>
          <tr>
            <th scope="col">Frame</th>
            <th v-for="c in columns" :key="c.id" scope="col">
              <span class="head"><LetterBox :letter="c.letter" /> {{ titled(c) }}</span>
              <span class="soft manner">{{ c.manner }}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="f in study.frames" :key="f.id">
            <th scope="row">
              {{ f.name
              }}<span v-if="f.picture.width" class="mono soft size"
                >{{ f.picture.width }} x {{ f.picture.height }}</span
              >
              <MadeDownload
                class="layers"
                :label="`Layers of ${f.name} as OpenRaster`"
                action="Get as layers"
                :choices="GRIDS"
                :ask="(grid) => askForLayers(f.id, grid)"
                :address="(grid) => `/api/studies/${study.id}/frames/${f.id}/layers?grid=${grid}`"
              />
            </th>
            <td v-for="c in columns" :key="c.id">
              <OutputCell :contender="c" :frame="f" :output="outputOf(c, f)" :can-edit="canEdit" />
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
.cells th,
.cells td {
  min-width: 160px;
}
.cells th:first-child {
  min-width: 120px;
}
tbody th {
  border-bottom: 1px solid var(--hair);
  vertical-align: top;
  padding-top: 8px;
}
.head {
  display: flex;
  gap: 8px;
  align-items: center;
}
.layers {
  display: block;
  margin-top: 8px;
}
.manner,
.size {
  display: block;
  font-weight: 400;
}
</style>
