<script setup lang="ts">
// What every chart has: its title, its numbers as a table and as CSV.
import { computed, ref } from "vue";

import { type Column, csvAddress } from "./csv";
import { tableOf } from "./table";

const props = defineProps<{
  title: string;
  curves: readonly Column[];
  xUnit: string;
  yUnit: string;
  height: number;
}>();
const asTable = ref(false);
const csv = computed(() => csvAddress(props.curves, props.xUnit, props.yUnit));
const table = computed(() => tableOf(props.curves, props.xUnit, props.yUnit));
</script>

<template>
  <figure class="chart">
    <figcaption>
      {{ title }}
      <span class="row font-weight-regular">
        <TextAction
          :aria-label="`${title} as a ${asTable ? 'chart' : 'table'}`"
          @click="asTable = !asTable"
        >
          {{ asTable ? "Chart" : "Table" }}
        </TextAction>
        <a :href="csv" :download="`${title}.csv`" :aria-label="`${title} as CSV`">CSV</a>
      </span>
    </figcaption>
    <div
      v-if="asTable"
      class="overflow-auto"
      :style="{ height: `${height}px` }"
      tabindex="0"
      role="region"
      :aria-label="`${title}, numbers`"
    >
      <v-table>
        <caption class="text-start soft small">
          {{
            yUnit
          }}
          over
          {{
            xUnit
          }}
        </caption>
        <thead>
          <tr>
            <th
              v-for="(name, i) in table.head"
              :key="i"
              scope="col"
              :class="{ number: i > 0 || !table.named }"
            >
              {{ name }}
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(row, r) in table.rows" :key="r">
            <td
              v-for="(cell, c) in row"
              :key="c"
              :class="c > 0 || !table.named ? 'mono number' : ''"
            >
              {{ cell }}
            </td>
          </tr>
        </tbody>
      </v-table>
    </div>
    <slot v-else />
  </figure>
</template>
