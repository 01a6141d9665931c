<script setup lang="ts">
import { computed } from "vue";

import { useReadings } from "@/api/queries";
import { useAddress } from "@/shared/lib/useAddress";
import { usePreference } from "@/shared/lib/usePreference";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { percent, STEPS } from "@/viewer/geometry";
import { titled } from "@/shared/lib/words";
import { MATCHES } from "@/viewer/matching";
import BasisSelect from "@/studies/compare/BasisSelect.vue";
import CompareTabs from "@/studies/compare/CompareTabs.vue";
import FairLine from "@/studies/shared/FairLine.vue";
import LetterBox from "@/shared/ui/LetterBox.vue";
import MeasureSelect from "@/studies/compare/MeasureSelect.vue";
import WallRow from "./WallRow.vue";

const { study, columns } = useStudyContext();
const { inAddress } = useAddress();
const { data: readings } = useReadings(() => study.value.id);
const kept = usePreference<string>("wall-zoom", "2");

const zoom = inAddress("zoom", () => kept.value);
const shown = inAddress("measure");
const frame = inAddress("frame");
const role = inAddress("role");
const match = inAddress("match");
const basis = inAddress("readings");
const viewMatch = computed(() => MATCHES.find((m) => m === match.value) ?? "none");
const roles = computed(() => [...new Set(study.value.patches.map((p) => p.role))]);
const rows = computed(() =>
  study.value.patches.filter(
    (p) =>
      (!frame.value || p.frame === Number(frame.value)) && (!role.value || p.role === role.value),
  ),
);
const moved = computed(() => {
  const letters = new Map(study.value.contenders.map((c) => [c.id, c.letter]));
  const found = study.value.outputs.filter(
    (o) => o.lineup && (o.lineup.dx !== 0 || o.lineup.dy !== 0),
  );
  return [...new Set(found.map((o) => letters.get(o.contender)))].sort().join(", ");
});

function setZoom(value: string): void {
  kept.value = value;
  zoom.value = value;
}
</script>

<template>
  <div class="toolbar">
    <CompareTabs />
    <MeasureSelect v-if="readings" v-model="shown" :measures="readings.measures" />
    <span class="choice" role="group" aria-label="Magnification of the subject">
      Subject at
      <button
        v-for="step in STEPS"
        :key="step"
        type="button"
        :aria-pressed="zoom === String(step)"
        @click="setZoom(String(step))"
      >
        {{ percent(step) }}
      </button>
    </span>
    <label v-if="study.frames.length > 1">
      Frames
      <select v-model="frame" class="quiet-select">
        <option value="">all {{ study.frames.length }}</option>
        <option v-for="f in study.frames" :key="f.id" :value="String(f.id)">{{ f.name }}</option>
      </select>
    </label>
    <label v-if="roles.length > 1">
      Roles
      <select v-model="role" class="quiet-select">
        <option value="">all</option>
        <option v-for="r in roles" :key="r" :value="r">{{ r }}</option>
      </select>
    </label>
    <label>
      Brightness
      <select v-model="match" class="quiet-select">
        <option value="">as made</option>
        <option value="exposure">exposure matched</option>
        <option value="exposure and tone">exposure, tone matched</option>
      </select>
    </label>
    <BasisSelect v-model="basis" />
  </div>
  <div class="fairness">
    <FairLine />
    <span v-if="basis" class="soft">Readings: {{ study.matched }}.</span>
    <span v-if="match" class="soft"
      >Crops: {{ match }} matched for looking, on the 8-bit display copy.</span
    >
    <span v-if="moved" class="soft">Lined up by shifting: {{ moved }}.</span>
  </div>
  <div v-if="!study.patches.length" class="empty">
    <h2>No patch yet</h2>
    <p>
      Patches are the spots compared on every output: cloth, a dial, plain wall, deep shadow, an
      edge.
      <router-link :to="`/studies/${study.id}/patches`">Draw the first one</router-link>.
    </p>
  </div>
  <div v-else class="scroll">
    <div
      class="wall"
      :style="{ gridTemplateColumns: `130px repeat(${columns.length}, minmax(168px, 1fr))` }"
    >
      <div class="corner">Patch</div>
      <div v-for="c in columns" :key="c.id" class="column">
        <span class="title"><LetterBox :letter="c.letter" /> {{ titled(c) }}</span>
        <span class="soft manner">{{
          c.kind === "truth"
            ? "known-good original"
            : c.kind === "unprocessed"
              ? "the frame as it is"
              : c.manner
        }}</span>
      </div>
      <WallRow
        v-for="p in rows"
        :key="p.id"
        :patch="p"
        :zoom="Number(zoom)"
        :shown="shown"
        :readings="readings"
        :basis="basis ? 'matched' : 'as made'"
        :match="viewMatch"
      />
    </div>
  </div>
</template>

<style scoped>
.fairness {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 22px;
  padding-bottom: 8px;
}
.scroll {
  overflow-x: auto;
}
.wall {
  display: grid;
  column-gap: 12px;
  min-width: min-content;
}
.corner,
.column {
  padding: 8px 0;
  border-bottom: 1px solid var(--rule);
}
.corner {
  position: sticky;
  left: 0;
  background: var(--paper);
  z-index: 1;
  font-weight: 600;
}
.title {
  display: flex;
  gap: 8px;
  align-items: center;
  font-weight: 500;
}
.manner {
  display: block;
}
.empty {
  padding: 28px 0;
  max-width: 560px;
}
</style>
