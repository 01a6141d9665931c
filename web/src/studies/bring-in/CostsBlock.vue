<script setup lang="ts">
// What the outputs cost: seconds, seconds a megapixel, memory, bytes. Medians, with the spread of
// several runs.
import { computed } from "vue";

import type { Shape } from "@/api/client";
import type { Cost } from "@/api/types";
import { useCosts } from "@/studies/bring-in/queries";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { bytes } from "@/shared/lib/formats";
import LetterBox from "@/shared/ui/LetterBox.vue";

const { study, treatments } = useStudyContext();
const { data: costs } = useCosts(computed(() => study.value.id));
const rows = computed(() =>
  (costs.value ?? []).flatMap((cost) => {
    const contender = treatments.value.find((c) => c.id === cost.contender);
    return contender ? [{ cost, contender }] : [];
  }),
);
const machines = computed(() => [...new Set((costs.value ?? []).flatMap((c) => c.machines))]);
type Middle = Shape["MiddleOut"] | null;

const digits = (value: number): number => (value >= 100 ? 0 : value >= 10 ? 1 : 2);
const plain = (m: Middle): string => (m ? m.value.toFixed(digits(m.value)) : "–");
function spread(m: Middle, runs: number): string {
  if (!m || runs < 2) return "";
  const d = digits(m.value);
  return `${m.low.toFixed(d)}–${m.high.toFixed(d)}`;
}
const many = (c: Cost): string =>
  c.told_by_hand ? "by hand" : `${c.speed.runs}${c.alone ? "" : "*"}`;
const disturbed = computed(() => costs.value?.some((c) => !c.alone && !c.told_by_hand) ?? false);
</script>

<template>
  <section class="block">
    <div class="block-head">
      <h2>Times and sizes</h2>
      <span class="soft"
        >Medians over frames and repeats, in seconds; below them the least and the greatest.</span
      >
      <a v-if="rows.length" class="end" :href="`/api/studies/${study.id}/costs.csv`">CSV</a>
    </div>
    <p v-if="!rows.length" class="soft">
      Nothing timed yet. Outputs made here are timed automatically; for others, open a cell above
      and add the times.
    </p>
    <div v-else style="--above: 260px" class="scroll" tabindex="0" role="region" aria-label="Times">
      <v-table>
        <thead>
          <tr>
            <th scope="col">Contender</th>
            <th scope="col">Runs</th>
            <th scope="col" class="number">Load s</th>
            <th scope="col" class="number">Process s</th>
            <th scope="col" class="number">Export s</th>
            <th scope="col" class="number">Total s</th>
            <th scope="col" class="number">s per source MP</th>
            <th scope="col" class="number">Processor s</th>
            <th scope="col" class="number">Memory MB</th>
            <th scope="col" class="number">Output</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="{ cost, contender } in rows" :key="contender.id">
            <th scope="row" style="min-width: 280px; max-width: 460px">
              <span class="d-flex ga-2 align-start"
                ><LetterBox :letter="contender.letter" /><span
                  >{{ contender.title }} <span class="soft">{{ contender.manner }}</span>
                  <span v-if="cost.unsteady" class="rowan"
                    >Not the same output every time.</span
                  ></span
                ></span
              >
            </th>
            <td class="mono number">{{ many(cost) }}</td>
            <td
              v-for="part in ['load', 'process', 'export', 'total', 'per_megapixel'] as const"
              :key="part"
              class="mono number"
            >
              {{ plain(cost.speed[part]) }}
              <span class="soft spread d-block text-no-wrap">{{
                spread(cost.speed[part], cost.speed.runs)
              }}</span>
            </td>
            <td class="mono number">{{ plain(cost.cpu) }}</td>
            <td class="mono number">{{ cost.peak ? Math.round(cost.peak.value) : "–" }}</td>
            <td class="mono number">{{ cost.size ? bytes(cost.size.value) : "–" }}</td>
          </tr>
        </tbody>
      </v-table>
    </div>
    <p v-if="disturbed" class="soft">
      * Run while other work went on, which slows it. Runs that are timed more than once have the
      machine to themselves, and then count alone.
    </p>
    <p v-if="machines.length" class="soft">
      {{ machines.length > 1 ? "On different machines, which cannot be compared:" : "On" }}
      {{ machines.join("; ") }}.
    </p>
  </section>
</template>
