<script setup lang="ts">
import { computed } from "vue";

import type { Contender, Measure, Reading } from "../api/queries";
import { fixed, half, placed } from "../look/words";
import LetterBox from "./LetterBox.vue";

const props = defineProps<{
  title: string;
  subtitle: string;
  columns: readonly Contender[];
  measures: readonly Measure[];
  readings: readonly Reading[];
}>();
const emit = defineEmits<{ open: [reading: Reading] }>();

const rows = computed(() =>
  props.measures
    .map((measure) => ({
      measure,
      cells: props.columns.map((c) =>
        props.readings.find((r) => r.measure === measure.id && r.contender === c.id),
      ),
    }))
    .filter((row) => row.cells.some(Boolean)),
);
/** Each reason once, with the letters it holds for, and the measures it keeps away. */
const reasons = computed(() => {
  const found = new Map<string, { letters: Set<string>; measures: Set<string> }>();
  for (const row of rows.value) {
    row.cells.forEach((r, i) => {
      if (!r?.reason) return;
      const entry = found.get(r.reason) ?? { letters: new Set(), measures: new Set() };
      entry.letters.add(props.columns[i]?.letter ?? "");
      entry.measures.add(row.measure.name);
      found.set(r.reason, entry);
    });
  }
  return [...found].map(
    ([text, e]) => `${[...e.letters].join(", ")}: ${text} (${[...e.measures].join(", ")})`,
  );
});
const better = { higher: "higher is better", lower: "lower is better" } as Record<string, string>;
</script>

<template>
  <section class="place">
    <h3>
      {{ title }} <span class="soft sub">{{ subtitle }}</span>
    </h3>
    <p v-if="!rows.length" class="soft">No reading yet.</p>
    <div v-else class="scroll">
      <table class="plain">
        <thead>
          <tr>
            <th scope="col" class="measure">Measure</th>
            <th v-for="c in columns" :key="c.id" scope="col" class="number">
              <LetterBox :letter="c.letter" />
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.measure.id">
            <th scope="row" class="measure">
              {{ row.measure.name }} <span class="soft sub">{{ row.measure.unit }}</span>
              <span v-if="row.measure.better" class="soft sub better">{{ better[row.measure.better] }}</span>
            </th>
            <td v-for="(r, i) in row.cells" :key="i" class="number">
              <button v-if="r && r.value !== null" type="button" class="cell mono" @click="emit('open', r)">
                {{ fixed(r.value, row.measure.digits) }}
                <span class="soft">±{{ fixed(half(r), row.measure.digits) }}</span>
                <span class="soft rank">{{ placed(r) }}</span>
              </button>
              <span v-else-if="r" class="soft" :title="r.reason">–</span>
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
tbody .measure {
  border-bottom: 1px solid var(--hair);
}
.number {
  text-align: right;
  white-space: nowrap;
}
.cell {
  background: none;
  border: 0;
  color: inherit;
  cursor: pointer;
  text-align: right;
}
.cell:hover {
  text-decoration: underline;
}
.rank {
  display: block;
  font-family: var(--text);
}
.reason {
  font-size: 13px;
  margin-top: 6px;
}
</style>
