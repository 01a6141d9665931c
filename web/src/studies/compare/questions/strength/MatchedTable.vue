<script setup lang="ts">
// Which setting of one tool leaves as much noise as each of another's.
import type { Shape } from "@/api/client";

import { settingText } from "./curves";

defineProps<{ matched: Shape["MatchedSeriesOut"] }>();
</script>

<template>
  <section class="block" :aria-label="`${matched.one} and ${matched.other} at equal noise`">
    <h2>At equal noise</h2>
    <v-table class="narrow">
      <thead>
        <tr>
          <th scope="col" class="number">{{ matched.one }}</th>
          <th scope="col" class="number">{{ matched.other }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in matched.rows" :key="row.setting">
          <th scope="row" class="number mono">{{ row.setting }} {{ matched.units[0] }}</th>
          <td class="number" :class="row.other === null ? 'soft' : 'mono'">
            {{ settingText(row, matched.units[1] ?? "") }}
          </td>
        </tr>
      </tbody>
    </v-table>
  </section>
</template>
