<script setup lang="ts">
// One place or group of places: a row a measure, a column a contender, a thin bar for the size of
// each number.
import { computed, ref } from "vue";

import type { Contender, Reading } from "@/api/types";
import { share } from "@/shared/lib/medians";
import { type NumberRow, ordered } from "@/shared/lib/numbers";
import { save } from "@/shared/lib/saving";
import { useNotices } from "@/shared/lib/useNotices";
import { named } from "@/shared/lib/words";
import HintedText from "@/shared/ui/HintedText.vue";
import LetterBox from "@/shared/ui/LetterBox.vue";

import { apartOf, fromCell, NO_DIFFERENCE } from "./apart";
import { asCsv, asMarkdown, asTabs, linesOf } from "./copying";
import { split } from "./few";

const props = defineProps<{
  title: string;
  subtitle: string;
  /** The patch's type; empty of whole frames and medians. */
  role: string;
  columns: readonly Contender[];
  rows: readonly NumberRow[];
  pinned: string;
  /** Numbers as differences from the pinned one. */
  apart: boolean;
  /** Readings in which something was found. */
  found: ReadonlySet<number>;
  /** All rows at once: they were chosen already. */
  whole: boolean;
  /** Whether it can become a table of the report. */
  takes: boolean;
}>();
const notices = useNotices();
const open = ref(false);
const parts = computed(() => split(props.rows, props.role, props.found));
const unfolded = computed(() => open.value || props.whole);
const listed = computed(() =>
  props.whole
    ? props.rows
    : open.value
      ? [...parts.value.first, ...parts.value.rest]
      : parts.value.first,
);
const from = computed(() => props.columns.find((c) => c.letter === props.pinned)?.id);
const sort = defineModel<string>("sort", { required: true });
const emit = defineEmits<{
  open: [reading: Reading];
  take: [kind: "table" | "chart", measures: string[], letters: string[]];
}>();

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
  shown.value.map((c) => {
    const cell = row.cells.get(c.id);
    const differs = props.apart && c.id !== from.value;
    const by = differs ? apartOf(cell, fromCell(row, from.value), row.measure.digits) : undefined;
    return { id: c.id, cell, by };
  });
const lines = () => linesOf(shown.value, listed.value);

async function copy(text: string): Promise<void> {
  await navigator.clipboard.writeText(text);
  notices.tell("Table copied.");
}

/** What is seen of it: its rows, and columns in their order. */
const take = (kind: "table" | "chart"): void =>
  emit(
    "take",
    kind,
    listed.value.map((row) => row.measure.id),
    shown.value.map((c) => c.letter),
  );

function saveCsv(): void {
  const name = `${props.title}, ${props.subtitle}.csv`;
  save(new Blob([asCsv(lines())], { type: "text/csv;charset=utf-8" }), name);
}
/** Each reason once, with the letters it holds for, and the measures it keeps away. */
const reasons = computed(() => {
  const found = new Map<string, { letters: Set<string>; measures: Set<string> }>();
  for (const row of listed.value) {
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
  <section class="place pt-5" :aria-label="`${title}, ${subtitle}`">
    <div class="d-flex ga-3 align-center">
      <h3>
        {{ title }} <span class="soft sub">{{ subtitle }}</span>
      </h3>
      <v-menu v-if="rows.length">
        <template #activator="{ props: opens }">
          <TextAction class="end small" v-bind="opens">Take</TextAction>
        </template>
        <v-list>
          <v-list-item title="As a table, for a spreadsheet" @click="copy(asTabs(lines()))" />
          <v-list-item title="As Markdown" @click="copy(asMarkdown(lines()))" />
          <v-list-item title="Save as CSV" @click="saveCsv" />
          <template v-if="takes">
            <v-list-item title="Into the report, as a table" @click="take('table')" />
            <v-list-item title="Into the report, as a chart" @click="take('chart')" />
          </template>
        </v-list>
      </v-menu>
    </div>
    <p v-if="!rows.length" class="soft">No reading yet.</p>
    <div v-else class="scroll">
      <v-table>
        <thead>
          <tr>
            <th scope="col" class="measure font-weight-medium">Measure</th>
            <th v-for="c in shown" :key="c.id" scope="col" class="number">
              <span class="d-flex ga-2 justify-end align-center">
                <span class="soft small text-truncate called">{{ named(c) }}</span>
                <LetterBox :letter="c.letter" />
              </span>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in listed" :key="row.measure.id">
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
            <td v-for="{ id, cell, by } in cellsOf(row)" :key="id" class="number">
              <div v-if="by" class="cell mono d-inline-block" :class="{ soft: by.none }">
                {{ by.text }} <span class="soft">{{ by.spread }}</span>
                <span v-if="by.none" class="soft rank d-block">{{ NO_DIFFERENCE }}</span>
              </div>
              <div v-else-if="cell && cell.value !== null" class="cell mono d-inline-block">
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
    <TextAction
      v-if="parts.rest.length && !whole"
      class="small"
      :aria-expanded="unfolded"
      @click="open = !open"
    >
      {{ open ? "Show fewer" : `${parts.rest.length} more` }}
    </TextAction>
    <p v-for="reason in reasons" :key="reason" class="soft small pt-1">{{ reason }}</p>
  </section>
</template>

<style scoped>
/* What is out of sight is neither laid out nor painted. */
.place {
  content-visibility: auto;
  contain-intrinsic-size: auto 360px;
}
.called {
  max-width: 150px;
}
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
