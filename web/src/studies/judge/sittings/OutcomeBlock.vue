<script setup lang="ts">
// What came of a closed sitting: the answer first, then what it rests on.
import { computed, ref } from "vue";

import type { Shape } from "@/api/client";
import ChoiceBar from "@/shared/ui/ChoiceBar.vue";
import LetterBox from "@/shared/ui/LetterBox.vue";
import QuietSelect from "@/shared/ui/QuietSelect.vue";
import { useStudyContext } from "@/studies/shared/useStudyContext";

import BesideBlock from "./BesideBlock.vue";
import ChancesTable from "./ChancesTable.vue";
import JudgesTable from "./JudgesTable.vue";
import { useOutcome } from "./queries";
import SpotOutcome from "./SpotOutcome.vue";
import { percent, withBounds } from "./words";

const props = defineProps<{ sitting: Shape["SittingWhole"] }>();
const { study } = useStudyContext();
const judges = ref<"all" | "screened">("all");
const { data, error } = useOutcome(
  () => study.value.id,
  () => props.sitting.id,
  judges,
);
const titles = computed(() =>
  Object.fromEntries(props.sitting.contenders.map((c) => [c.letter, c.title])),
);
const out = computed(() => data.value?.judges.filter((j) => j.reasons.length).length ?? 0);
const WHICH = [
  { value: "all", title: "All judges" },
  { value: "screened", title: "Without those" },
] as const;
const spot = ref(0);
const spots = computed(() =>
  props.sitting.spots.map((s, i) => ({ value: i, title: `${s.name}, ${s.frame_name}` })),
);
</script>

<template>
  <p v-if="error" class="rowan" role="alert">{{ error.message }}</p>
  <template v-else-if="data">
    <div v-if="out" class="row middle">
      <span>It is proposed to leave out {{ out === 1 ? "1 judge" : `${out} judges` }}.</span>
      <ChoiceBar v-model="judges" label="Counted" hide-label :items="[...WHICH]" />
    </div>
    <section v-if="data.overall" class="block" aria-label="Chosen">
      <p v-if="data.left_out">{{ data.overall.said }}</p>
      <p class="soft">{{ data.overall.speaks }}</p>
      <ChancesTable :results="data.overall" :titles="titles" />
      <p class="soft pt-2">
        {{ data.overall.answers }} answers of {{ data.overall.judges }}
        {{ data.overall.judges === 1 ? "judge" : "judges" }} on {{ data.overall.scenes }} spots; no
        difference was said in {{ percent(data.overall.no_difference) }}; of two equals the left one
        is chosen by {{ withBounds(data.overall.lean)
        }}<template v-if="data.alpha !== null"
          >; judges agree by {{ data.alpha.toFixed(2) }} (Krippendorff’s alpha)</template
        >.
      </p>
    </section>
    <section v-if="data.grades.length" class="block" aria-label="Grades">
      <v-table>
        <thead>
          <tr>
            <th scope="col">Contender</th>
            <th scope="col">Mean grade, 5 imperceptible to 1 very annoying</th>
            <th scope="col">Judges</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="g in data.grades" :key="g.letter">
            <td><LetterBox :letter="g.letter" /> {{ titles[g.letter] }}</td>
            <td class="mono">
              {{ g.grade.value.toFixed(2) }} ({{ g.grade.low.toFixed(2) }} to
              {{ g.grade.high.toFixed(2) }})
            </td>
            <td class="mono">{{ g.judges }}</td>
          </tr>
        </tbody>
      </v-table>
    </section>
    <section v-if="data.by_role.length" class="block" aria-label="By type of patch">
      <h3>By type of patch</h3>
      <ul class="plain">
        <li v-for="row in data.by_role" :key="row.role">
          <b>{{ row.role }}</b>: {{ row.results?.said ?? "nothing was asked" }}
        </li>
      </ul>
    </section>
    <section v-if="data.by_scene.length" class="block" aria-label="By kind of scene">
      <h3>By kind of scene</h3>
      <ul class="plain">
        <li v-for="row in data.by_scene" :key="row.scene">
          <b>{{ row.scene }}</b>: {{ row.results?.said ?? "nothing was asked" }}
        </li>
      </ul>
    </section>
    <section v-if="data.overall && spots.length > 1" class="block" aria-label="By spot">
      <h3>By spot</h3>
      <QuietSelect v-model="spot" label="Spot" :items="spots" />
      <SpotOutcome :sitting="sitting" :spot="spot" :titles="titles" />
    </section>
    <section v-if="data.reasons.length" class="block" aria-label="Why">
      <h3>What was seen in those not chosen</h3>
      <p>
        <span v-for="r in data.reasons" :key="r.letter + r.kind" class="reason"
          ><LetterBox :letter="r.letter" /> {{ r.kind }} ({{ r.times }})</span
        >
      </p>
    </section>
    <BesideBlock v-if="data.beside.length" :sitting="sitting" :beside="data.beside" />
    <section class="block" aria-label="Judges">
      <h3>Judges</h3>
      <JudgesTable :judges="data.judges" />
      <p class="pt-2">
        <a :href="`/api/sittings/${sitting.id}/calls.csv`">All answers as CSV</a>
        <span class="soft"> without names</span>
      </p>
    </section>
  </template>
</template>

<style scoped>
.reason {
  margin-right: 16px;
  white-space: nowrap;
}
</style>
