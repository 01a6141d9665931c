<script setup lang="ts">
// One place or group of places: a row a measure, a column a contender, a thin bar for the size of
// each number.
import { computed } from "vue";

import type { Contender, Reading } from "@/api/types";
import { share } from "@/shared/lib/medians";
import { type NumberRow, ordered } from "@/shared/lib/numbers";
import HintedText from "@/shared/ui/HintedText.vue";
import LetterBox from "@/shared/ui/LetterBox.vue";

const props = defineProps<{
  title: string;
  subtitle: string;
  columns: readonly Contender[];
  rows: readonly NumberRow[];
  pinned: string;
}>();
const sort = defineModel<string>("sort", { required: true });
const emit = defineEmits<{ open: [reading: Reading] }>();

const shown = computed(() =>
  ordered(
    props.columns,
    props.rows.find((r) => r.measure.id === sort.value),
    props.pinned,
  ),
);
const values = (row: NumberRow): number[] =>
  [...row.cells.values()].map((c) => c.value).filter((v): v is number => v !== null);
const cellsOf = (row: NumberRow) =>
  shown.value.map((c) => ({ id: c.id, cell: row.cells.get(c.id) }));
/** Each reason once, with the letters it holds for, and the measures it keeps away. */
const reasons = computed(() => {
  const found = new Map<string, { letters: Set<string>; measures: Set<string> }>();
  for (const row of props.rows) {
    for (const c of props.columns) {
      const reason = row.cells.get(c.id)?.reason;
      if (!reason) continue;
      const entry = found.get(reason) ?? { letters: new Set(), measures: new Set() };
      entry.letters.add(c.letter);
      entry.measures.add(row.measure.name);
      found.set(reason, entry);
    }
  }
  return [...found].map(
    ([text, e]) => `${[...e.letters].join(", ")}: ${text} (${[...e.measures].join(", ")})`,
  );
});
</script>

<template>
  <section class="pt-5" :aria-label="`${title}, ${subtitle}`">
    <h3>
      {{ title }} <span class="soft sub">{{ subtitle }}</span>
    </h3>
    <p v-if="!rows.length" class="soft">No reading yet.</p>
    <div v-else class="scroll">
      <v-table>
        <thead>
          <tr>
            <th scope="col" class="measure font-weight-medium">Measure</th>
            <th v-for="c in shown" :key="c.id" scope="col" class="number">
              <LetterBox :letter="c.letter" />
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.measure.id">
            <th scope="row" class="measure font-weight-medium">
              <TextAction
                class="sorter quiet-act"
                :aria-pressed="sort === row.measure.id"
                @click="sort = sort === row.measure.id ? '' : row.measure.id"
              >
                {{ row.measure.name }}
              </TextAction>
              <span class="soft sub unit ml-2">{{ row.measure.unit }}</span>
              <span v-if="row.measure.best" class="soft sub better d-block"
                >{{ row.measure.best }} is best</span
              >
            </th>
            <td v-for="{ id, cell } in cellsOf(row)" :key="id" class="number">
              <div v-if="cell && cell.value !== null" class="cell mono d-inline-block">
                <TextAction
                  v-if="cell.reading"
                  class="value quiet-act"
                  @click="emit('open', cell.reading)"
                  >{{ cell.text }}</TextAction
                >
                <template v-else>{{ cell.text }}</template>
                {{ " " }}<span class="soft">{{ cell.spread }}</span>
                <span class="soft rank d-block">{{ cell.note }}</span>
                <span
                  class="bar d-block"
                  :style="{ width: `${100 * share(cell.value, values(row))}%` }"
                />
              </div>
              <HintedText v-else-if="cell" class="soft" :hint="cell.reason">–</HintedText>
            </td>
          </tr>
        </tbody>
      </v-table>
    </div>
    <p v-for="reason in reasons" :key="reason" class="soft small pt-1">{{ reason }}</p>
  </section>
</template>

<style scoped>
.measure {
  width: 230px;
}
.sorter[aria-pressed="true"] {
  border-bottom: 2px solid var(--spruce);
}
.cell {
  min-width: 92px;
}
.bar {
  height: 2px;
  margin: 3px 0 0 auto;
  background: var(--soft);
}
</style>
