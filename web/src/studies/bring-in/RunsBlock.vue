<script setup lang="ts">
// Making outputs on the bench: what is there, what is not, and the buttons that change it.
import { computed, ref } from "vue";

import type { Contender, Frame } from "@/api/types";
import { useHotFolders } from "@/studies/bring-in/queries";
import { useRuns } from "./useRuns";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { counted, lasting } from "@/shared/lib/words";
import CellDialog from "./CellDialog.vue";
import CoverageTable from "./CoverageTable.vue";
import LetterBox from "@/shared/ui/LetterBox.vue";

const { study, treatments, canEdit } = useStudyContext();
const runs = useRuns(study);
const { count, toMake, busy, run, cancel, coverage } = runs;
const { data: hot } = useHotFolders(computed(() => study.value.id));
const cell = ref<{ contender: Contender; frame: Frame }>();
const shown = ref(false);
const repeats = ref<number | null>(1);
const underWay = computed(() => count("running") + count("waiting"));
const summary = computed(() =>
  (["made", "running", "waiting", "missing", "failed", "impossible"] as const)
    .filter((s) => count(s))
    .map((s) => `${count(s)} ${s}`)
    .join(", "),
);
const offer = computed(() => {
  if (toMake.value) return `Make ${counted(toMake.value, "missing output")}`;
  if (underWay.value) return "All outputs are under way";
  return count("missing") ? "Missing outputs cannot be made here" : "No output is missing";
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
</script>

<template>
  <section class="block">
    <div class="block-head">
      <h2>Make outputs</h2>
      <span class="soft">{{ summary }}</span>
      <span v-if="underWay && coverage?.seconds_left" class="soft"
        >about {{ lasting(coverage.seconds_left) }} of work left</span
      >
      <span class="end soft small">{{ coverage?.machine }}</span>
    </div>
    <p v-if="!treatments.length || !study.frames.length" class="soft">
      Outputs can be made once there are
      <router-link :to="`/studies/${study.id}/set-up`">frames and contenders</router-link>.
    </p>
    <template v-else>
      <div v-if="canEdit" class="row middle mb-3">
        <v-btn variant="flat" :loading="busy" :disabled="!toMake" @click="run('missing')">
          {{ offer }}
        </v-btn>
        <TextAction v-if="count('failed')" @click="run('failed')">
          Retry {{ counted(count("failed"), "failed run") }}
        </TextAction>
        <TextAction @click="run('all', [], repeats ?? 1)">Make all again</TextAction>
        <NumberField
          v-model="repeats"
          width="140"
          class="quiet"
          prefix="Timed runs"
          aria-label="Timed runs of each"
          :precision="0"
          :min="1"
          :max="9"
        />
        <TextAction v-if="underWay" class="end" @click="cancel">
          Cancel {{ counted(underWay, "run") }}
        </TextAction>
      </div>
      <CoverageTable :runs="runs" @open="open" />
      <section v-if="byHand.length && canEdit" class="stack pt-4" aria-label="Run by hand">
        <h3>Run by hand</h3>
        <p class="soft">
          These tools have no program on this bench. Add their outputs below; or open a hot folder,
          run the tool over the inputs in it, and its outputs are picked up.
        </p>
        <div v-for="c in byHand" :key="c.id" class="row middle">
          <LetterBox :letter="c.letter" />
          <template v-if="hotOf(c)">
            <span
              >{{
                hotOf(c)?.inputs.length
                  ? counted(hotOf(c)?.inputs.length ?? 0, "input")
                  : "Inputs being written"
              }}
              in <code class="mono">{{ hotOf(c)?.home }}/in</code>; put outputs into
              <code class="mono">out</code> beside it and keep the number in their names.</span
            >
            <TextAction @click="runs.closeHot(c.id)">Close hot folder</TextAction>
            <p v-if="hotOf(c)?.note" class="rowan note text-pre-line w-100">{{ hotOf(c)?.note }}</p>
          </template>
          <template v-else>
            <span>{{ c.title }}</span>
            <TextAction @click="runs.openHot(c.id)">Open hot folder</TextAction>
          </template>
        </div>
      </section>
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
