<script setup lang="ts">
// A later release by every main measure, and what both take.
import { computed } from "vue";

import type { Shape } from "@/api/client";
import { bytes } from "@/shared/lib/formats";
import LetterBox from "@/shared/ui/LetterBox.vue";

import { runsText, spreadText } from "./releases";

const props = defineProps<{ found: Shape["ReleasesFoundOut"] }>();
const timed = computed(() =>
  [props.found.earlier, props.found.later].flatMap((letter, i) => {
    const cost = props.found.costs[i];
    return cost ? [{ letter, cost }] : [];
  }),
);
// What nobody can see is named, not tabled.
const seen = computed(() =>
  props.found.rows.filter((r) => r.better.length + r.worse.length + r.other.length > 0),
);
const unseen = computed(() =>
  props.found.rows.filter((r) => !seen.value.includes(r)).map((r) => r.title),
);
const places = (of: readonly string[]) => of.join("; ") || "–";
</script>

<template>
  <section v-if="found.rows.length" class="block scroll" aria-label="By measure">
    <h2>By measure</h2>
    <v-table v-if="seen.length">
      <thead>
        <tr>
          <th scope="col">{{ found.later }} against {{ found.earlier }}</th>
          <th scope="col">Visibly better at</th>
          <th scope="col">Visibly worse at</th>
          <th scope="col">Otherwise at</th>
          <th scope="col" class="number">Not visibly</th>
          <th scope="col" class="number">Not at all</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in seen" :key="row.measure">
          <th scope="row">{{ row.title }}</th>
          <td>{{ places(row.better) }}</td>
          <td>{{ places(row.worse) }}</td>
          <td>{{ places(row.other) }}</td>
          <td class="number mono">{{ row.unseen }}</td>
          <td class="number mono">{{ row.none }}</td>
        </tr>
      </tbody>
    </v-table>
    <p v-if="unseen.length" class="soft py-2">No visible difference by {{ unseen.join(", ") }}.</p>
  </section>
  <section v-if="timed.length" class="block scroll" aria-label="Speed and size">
    <h2>Speed and size</h2>
    <v-table>
      <thead>
        <tr>
          <th scope="col">Release</th>
          <th scope="col" class="number">Seconds a megapixel</th>
          <th scope="col" class="number">An output takes</th>
          <th scope="col">Timed</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="{ letter, cost } in timed" :key="letter">
          <th scope="row"><LetterBox :letter="letter" /></th>
          <td class="number mono">{{ spreadText(cost.seconds, (s) => s.toPrecision(3)) }}</td>
          <td class="number mono">{{ spreadText(cost.size, bytes) }}</td>
          <td>{{ runsText(cost.runs) }}{{ cost.by_hand ? ", by hand" : "" }}</td>
        </tr>
      </tbody>
    </v-table>
  </section>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
</style>
