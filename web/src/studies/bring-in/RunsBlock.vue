<script setup lang="ts">
// Making outputs on the bench: what is there, what is not, and the buttons that change it.
import { computed, ref } from "vue";

import { api, ask } from "@/api/client";
import { type Contender, type Frame, useHotFolders } from "@/api/queries";
import { useAct } from "@/shared/lib/useAct";
import { useRuns } from "./useRuns";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { counted, lasting } from "@/shared/lib/words";
import CellDialog from "./CellDialog.vue";
import CoverageTable from "./CoverageTable.vue";
import LetterBox from "@/shared/ui/LetterBox.vue";

const { study, treatments, canEdit } = useStudyContext();
const runs = useRuns(study);
const { count, toMake, busy, run, callOff, coverage } = runs;
const { data: hot } = useHotFolders(computed(() => study.value.id));
const { act } = useAct();
const cell = ref<{ contender: Contender; frame: Frame }>();
const shown = ref(false);
const repeats = ref(1);
const underWay = computed(() => count("running") + count("waiting"));
const summary = computed(() =>
  (["made", "running", "waiting", "missing", "failed", "impossible"] as const)
    .filter((s) => count(s))
    .map((s) => `${count(s)} ${s}`)
    .join(", "),
);
const offer = computed(() => {
  if (toMake.value) return `Make ${counted(toMake.value, "missing output")}`;
  if (underWay.value) return "All of it is under way";
  return count("missing") ? "What is missing can not be made here" : "Nothing is missing";
});
const byHand = computed(() =>
  treatments.value.filter((c) =>
    coverage.value?.cells.some((x) => x.contender === c.id && x.by_hand),
  ),
);
const hotOf = (c: Contender) => hot.value?.find((h) => h.contender === c.id);

function open(contender: Contender, frame: Frame): void {
  cell.value = { contender, frame };
  shown.value = true;
}

function openHot(c: Contender): void {
  const params = { path: { contender_id: c.id } };
  void act(() => ask(api.POST("/api/contenders/{contender_id}/hot-folder", { params })));
}

function closeHot(c: Contender): void {
  const params = { path: { contender_id: c.id } };
  void act(
    () => ask(api.DELETE("/api/contenders/{contender_id}/hot-folder", { params })),
    "Closed; the files stay where they are.",
  );
}
</script>

<template>
  <section class="block">
    <div class="block-head">
      <h2>Making the outputs</h2>
      <span class="soft">{{ summary }}</span>
      <span v-if="underWay && coverage?.seconds_left" class="soft"
        >about {{ lasting(coverage.seconds_left) }} left</span
      >
      <span class="end soft machine">{{ coverage?.machine }}</span>
    </div>
    <p v-if="!treatments.length || !study.frames.length" class="soft">
      Nothing can be made yet.
      <router-link :to="`/studies/${study.id}/set-up`">Add frames and contenders</router-link>
      first.
    </p>
    <template v-else>
      <div v-if="canEdit" class="acts">
        <v-btn variant="flat" :loading="busy" :disabled="!toMake" @click="run('missing')">
          {{ offer }}
        </v-btn>
        <button v-if="count('failed')" type="button" class="link" @click="run('failed')">
          Try the {{ count("failed") }} that failed again
        </button>
        <span class="again">
          <button type="button" class="link" @click="run('all', [], repeats)">
            Make all of them again
          </button>
          <label class="soft"
            >timed
            <input
              v-model.number="repeats"
              type="number"
              class="number-input few"
              min="1"
              max="9"
            />
            {{ repeats === 1 ? "time" : "times" }}</label
          >
        </span>
        <button v-if="underWay" type="button" class="link end" @click="callOff">
          Call off {{ counted(underWay, "run") }}
        </button>
      </div>
      <CoverageTable :runs="runs" @open="open" />
      <div v-if="byHand.length && canEdit" class="hand">
        <h3>Run by hand</h3>
        <p class="soft">
          These have no program on this bench. Bring their outputs in below, or have the inputs
          written into a hot folder, run the tool over them, and what it writes beside them is
          picked up.
        </p>
        <div v-for="c in byHand" :key="c.id" class="hot">
          <LetterBox :letter="c.letter" />
          <template v-if="hotOf(c)">
            <span
              >{{
                hotOf(c)?.inputs.length
                  ? counted(hotOf(c)?.inputs.length ?? 0, "input")
                  : "Inputs being written"
              }}
              in <code>{{ hotOf(c)?.home }}/in</code>; put the outputs into <code>out</code> beside
              it, keeping the number in their names.</span
            >
            <button type="button" class="link" @click="closeHot(c)">Close it</button>
            <p v-if="hotOf(c)?.note" class="rowan note">{{ hotOf(c)?.note }}</p>
          </template>
          <template v-else>
            <span>{{ c.title }}</span>
            <button type="button" class="link" @click="openHot(c)">Open a hot folder</button>
          </template>
        </div>
      </div>
    </template>
    <CellDialog
      v-if="cell"
      v-model="shown"
      :contender="cell.contender"
      :frame="cell.frame"
      :runs="runs"
    />
  </section>
</template>

<style scoped>
.machine {
  font-size: 12.5px;
}
.acts,
.again,
.hot {
  display: flex;
  gap: 8px 22px;
  flex-wrap: wrap;
  align-items: center;
}
.acts {
  margin-bottom: 12px;
}
.again {
  gap: 8px;
}
.end {
  margin-left: auto;
}
.few {
  width: 52px;
}
.hand {
  display: grid;
  gap: 8px;
  padding-top: 18px;
}
.note {
  flex-basis: 100%;
  white-space: pre-line;
}
code {
  font: 12.5px var(--mono);
}
</style>
