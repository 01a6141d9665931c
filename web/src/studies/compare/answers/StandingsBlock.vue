<script setup lang="ts">
// Who wins where, by one measure: medians over roles, kinds of scene and frames, and how each fares
// against one contender.
import { computed } from "vue";

import type { Answers, Measure } from "@/api/types";
import { useStandings } from "@/studies/compare/queries";
import { lastChances } from "@/studies/shared/sittings/chosen";
import { useSittings } from "@/studies/shared/sittings/queries";
import { useAddress } from "@/shared/lib/useAddress";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { answerText, medianSpread, medianText } from "@/shared/lib/medians";
import { capital, titled } from "@/shared/lib/words";
import LetterBox from "@/shared/ui/LetterBox.vue";
import QuietSelect from "@/shared/ui/QuietSelect.vue";
import MeasureSelect from "@/studies/compare/MeasureSelect.vue";

const props = defineProps<{
  measures: readonly Measure[];
  thresholds: Answers["thresholds"];
  basis: string;
}>();
const { study, columns } = useStudyContext();
const { inAddress } = useAddress();
const { data: sittings } = useSittings(() => study.value.id);
const chances = computed(() => lastChances(sittings.value));
const measure = inAddress("by", () => props.measures[0]?.id ?? "");
const against = inAddress(
  "against",
  () => study.value.contenders.find((c) => c.kind === "unprocessed")?.letter ?? "",
);
const { data, error, isPending } = useStandings(
  () => study.value.id,
  measure,
  () => props.basis,
);
const told = computed(() => props.measures.find((m) => m.id === measure.value));
const threshold = computed(() => props.thresholds.find((t) => t.measure === measure.value));
const shown = computed(() => columns.value.filter((c) => c.kind !== "truth"));
const rivals = computed(() =>
  shown.value.map((c) => ({ value: c.letter, title: `${c.letter} ${titled(c)}` })),
);
const BY = { all: "", role: "role", kind: "kind of scene", frame: "frame" } as Record<
  string,
  string
>;
const rows = computed(() => {
  const groups = new Map<
    string,
    { by: string; group: string; cells: Map<string, NonNullable<typeof data.value>[number]> }
  >();
  for (const standing of data.value ?? []) {
    const key = `${standing.by}/${standing.group}`;
    const row = groups.get(key) ?? { by: standing.by, group: standing.group, cells: new Map() };
    row.cells.set(standing.letter, standing);
    groups.set(key, row);
  }
  return [...groups.values()];
});
const facing = (cell: { against: readonly { letter: string }[] } | undefined) =>
  cell?.against.find((a) => a.letter === against.value) as
    Parameters<typeof answerText>[0] | undefined;
</script>

<template>
  <section class="block" aria-label="Who is better where">
    <div class="block-head">
      <h2>Who is better where</h2>
      <span class="end row middle">
        <MeasureSelect v-model="measure" :measures="measures" />
        <QuietSelect v-model="against" label="Against" :items="rivals" />
      </span>
    </div>
    <p v-if="told" class="soft">
      Medians, {{ told.unit || "0 to 1"
      }}<template v-if="told.best">; {{ told.best }} is best</template>. Two outputs are compared on
      each patch, part by part where both have the same parts. A difference under
      {{ threshold?.words }} counts as measurable, not visible ({{ threshold?.defined_by }}).
    </p>
    <p v-if="error" class="rowan">{{ error.message }}</p>
    <p v-if="isPending" class="soft">Comparing …</p>
    <div
      v-else
      style="--above: 120px"
      class="scroll"
      tabindex="0"
      role="group"
      aria-label="Medians and answers"
    >
      <v-table :style="{ minWidth: `${150 + 150 * shown.length}px` }">
        <thead>
          <tr>
            <th style="width: 150px" scope="col" class="where">Where</th>
            <th v-for="c in shown" :key="c.id" scope="col" class="number">
              <LetterBox :letter="c.letter" />
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-if="chances">
            <th style="width: 150px" scope="row" class="where">
              Chosen blind
              <span class="soft sub d-block">over the others</span>
            </th>
            <td v-for="c in shown" :key="c.id" class="number">
              <span v-if="chances[c.letter] !== undefined" class="mono"
                >{{ Math.round(100 * (chances[c.letter] ?? 0)) }} %</span
              >
              <span v-else class="soft">–</span>
            </td>
          </tr>
          <tr v-for="row in rows" :key="row.by + row.group">
            <th style="width: 150px" scope="row" class="where">
              {{ row.by === "all" ? "Everywhere" : capital(row.group) }}
              <span class="soft sub d-block">{{ BY[row.by] }}</span>
            </th>
            <td v-for="c in shown" :key="c.id" class="number">
              <template v-if="row.cells.get(c.letter)">
                <span class="mono">{{ medianText(row.cells.get(c.letter)!.middle, told) }}</span>
                <span class="soft sub d-block">{{
                  medianSpread(row.cells.get(c.letter)!.middle, told)
                }}</span>
                <span
                  v-if="facing(row.cells.get(c.letter))"
                  class="sub answer d-block"
                  :class="facing(row.cells.get(c.letter))!.answer"
                  >{{ answerText(facing(row.cells.get(c.letter))!) }}</span
                >
                <span v-else-if="c.letter === against" class="soft sub d-block">compared with</span>
              </template>
              <span v-else class="soft">–</span>
            </td>
          </tr>
        </tbody>
      </v-table>
    </div>
  </section>
</template>

<style scoped>
.answer.better {
  color: var(--spruce);
  font-weight: 600;
}
.answer.worse {
  color: var(--ink);
  font-weight: 600;
}
</style>
