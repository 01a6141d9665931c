<script setup lang="ts">
// Each measure beside what people chose, and where eyes and numbers part.
import { computed, ref } from "vue";

import type { Shape } from "@/api/client";
import { useStudyContext } from "@/studies/shared/useStudyContext";

import LetterBox from "@/shared/ui/LetterBox.vue";

import { agreementWords, partingsOf, percent, withBounds } from "./words";

const props = defineProps<{
  sitting: Shape["SittingWhole"];
  beside: readonly Shape["BesideOut"][];
}>();
const { study } = useStudyContext();
const all = ref(false);
const FEW = 8;
const MOST_SHOWN = 9;
const shown = computed(() => (all.value ? props.beside : props.beside.slice(0, FEW)));
const partings = computed(() => partingsOf(props.beside).slice(0, MOST_SHOWN));
const gamma = (v: number): string => `${v < 0 ? "−" : ""}${Math.abs(v).toFixed(2)}`;
const bounds = (i: Shape["IntervalOut"] | null): string =>
  i ? `${gamma(i.low)} to ${gamma(i.high)}` : "too few scenes";
const spotOf = (at: number) => props.sitting.spots[at];
function lookAt(p: { spot: number; chosen: string; measured: string }): string {
  const patch = spotOf(p.spot)?.patch;
  const panes = `panes=${p.chosen},${p.measured}`;
  return `/studies/${study.value.id}/look?${patch ? `patch=${patch}&` : ""}${panes}`;
}
</script>

<template>
  <section class="block" aria-label="Beside the numbers">
    <h3>Beside the numbers</h3>
    <p class="soft">
      How far each measure’s order is that of the choices (gamma: 1 always, 0 as by chance, −1
      never), with its 95 % interval over scenes.
    </p>
    <v-table>
      <thead>
        <tr>
          <th scope="col">Measure</th>
          <th scope="col" class="num">Gamma</th>
          <th scope="col">95 %</th>
          <th scope="col" class="num">Choices</th>
          <th scope="col">Goes</th>
          <th scope="col">No difference said, below and above what is held to be seen</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in shown" :key="row.measure">
          <td>{{ row.name }}</td>
          <td class="num mono">{{ gamma(row.gamma) }}</td>
          <td class="mono">{{ bounds(row.interval) }}</td>
          <td class="num mono">{{ row.choices }}</td>
          <td>{{ agreementWords(row.gamma) }}</td>
          <td class="mono">
            <template v-if="row.threshold !== null">
              {{ row.same_below ? percent(row.same_below.value) : "—" }},
              {{ row.same_above ? percent(row.same_above.value) : "—" }} ({{
                `${row.threshold} ${row.unit}`.trim()
              }})
            </template>
          </td>
        </tr>
      </tbody>
    </v-table>
    <TextAction v-if="beside.length > FEW" @click="all = !all">{{
      all ? "Fewer" : `All ${beside.length}`
    }}</TextAction>
    <template v-if="partings.length">
      <h3 class="pt-4">Where eyes and numbers part</h3>
      <ul class="partings">
        <li v-for="(p, i) in partings" :key="i">
          <div class="d-flex ga-2 pa-2 on-surround">
            <figure v-for="letter in [p.chosen, p.measured]" :key="letter">
              <img
                :src="`/api/sittings/${sitting.id}/crops/${p.spot}/${letter}.png`"
                :alt="`${spotOf(p.spot)?.name ?? ''} of ${letter}`"
                loading="lazy"
              />
            </figure>
          </div>
          <p class="small pt-1">
            <LetterBox :letter="p.chosen" /> left, <LetterBox :letter="p.measured" /> right.
            <router-link :to="lookAt(p)">{{ spotOf(p.spot)?.name }}</router-link>:
            {{ p.chosen }} was chosen over {{ p.measured }} by {{ withBounds(p.share) }}, while
            {{ p.measures.join(", ") }} {{ p.measures.length === 1 ? "puts" : "put" }}
            {{ p.measured }} first.
          </p>
        </li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
.partings {
  list-style: none;
  padding: 8px 0 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(360px, 1fr));
  gap: 16px;
}
figure {
  flex: 1;
  min-width: 0;
}
img {
  display: block;
  width: 100%;
  image-rendering: pixelated;
}
@media (max-width: 720px) {
  .partings {
    grid-template-columns: minmax(0, 1fr);
  }
}
.num {
  text-align: right;
}
</style>
