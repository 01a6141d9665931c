<script setup lang="ts">
// One place or group of places: a row a measure, a column a contender, a thin bar for the size of each number.
import { computed } from "vue";

import type { Contender, Reading } from "@/api/queries";
import { share } from "@/shared/lib/medians";
import { type NumberRow, ordered } from "@/shared/lib/numbers";
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
  <section class="place" :aria-label="`${title}, ${subtitle}`">
    <h3>
      {{ title }} <span class="soft sub">{{ subtitle }}</span>
    </h3>
    <p v-if="!rows.length" class="soft">No reading yet.</p>
    <div v-else class="scroll">
      <table class="plain">
        <thead>
          <tr>
            <th scope="col" class="measure">Measure</th>
            <th v-for="c in shown" :key="c.id" scope="col" class="number">
              <LetterBox :letter="c.letter" />
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.measure.id">
            <th scope="row" class="measure">
              <button
                type="button"
                class="sorter"
                :aria-pressed="sort === row.measure.id"
                :title="
                  sort === row.measure.id
                    ? 'Columns back in their order'
                    : 'Order the columns by this measure'
                "
                @click="sort = sort === row.measure.id ? '' : row.measure.id"
              >
                {{ row.measure.name }}
              </button>
              <span class="soft sub unit">{{ row.measure.unit }}</span>
              <span v-if="row.measure.best" class="soft sub better"
                >{{ row.measure.best }} is best</span
              >
            </th>
            <td v-for="{ id, cell } in cellsOf(row)" :key="id" class="number">
              <component
                :is="cell.reading ? 'button' : 'span'"
                v-if="cell && cell.value !== null"
                :type="cell.reading ? 'button' : undefined"
                class="cell mono"
                @click="cell.reading && emit('open', cell.reading)"
              >
                {{ cell.text }}
                <span class="soft">{{ cell.spread }}</span>
                <span class="soft rank">{{ cell.note }}</span>
                <span class="bar" :style="{ width: `${100 * share(cell.value, values(row))}%` }" />
              </component>
              <span v-else-if="cell" class="soft" :title="cell.reason">–</span>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-for="reason in reasons" :key="reason" class="soft reason">{{ reason }}</p>
  </section>
</template>

<style scoped>
.place {
  margin-top: 26px;
}
.sub {
  font: 400 13px var(--text);
}
.unit {
  margin-left: 6px;
}
.better {
  display: block;
}
.scroll {
  overflow-x: auto;
}
.measure {
  width: 230px;
  font-weight: 500;
}
.sorter {
  background: none;
  border: 0;
  padding: 0;
  color: inherit;
  font: inherit;
  cursor: pointer;
  text-align: left;
}
.sorter:hover {
  text-decoration: underline;
}
.sorter[aria-pressed="true"] {
  border-bottom: 2px solid var(--spruce);
}
tbody .measure {
  border-bottom: 1px solid var(--hair);
}
.number {
  text-align: right;
  white-space: nowrap;
}
.cell {
  display: inline-block;
  min-width: 92px;
  background: none;
  border: 0;
  color: inherit;
  text-align: right;
}
button.cell {
  cursor: pointer;
}
button.cell:hover {
  text-decoration: underline;
}
.rank {
  display: block;
  font-family: var(--text);
}
.bar {
  display: block;
  height: 2px;
  margin: 3px 0 0 auto;
  background: var(--soft);
}
.reason {
  font-size: 13px;
  margin-top: 6px;
}
</style>
