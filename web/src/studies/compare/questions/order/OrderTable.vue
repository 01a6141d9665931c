<script setup lang="ts">
// Two orders on every patch, those where the order matters first.
import { computed } from "vue";

import type { Shape } from "@/api/client";
import LetterBox from "@/shared/ui/LetterBox.vue";

const props = defineProps<{ pair: Shape["OrderPairOut"] }>();
const FIRM = ["better", "worse"];
const places = computed(() =>
  [...props.pair.places].sort(
    (a, b) => Number(FIRM.includes(b.answer)) - Number(FIRM.includes(a.answer)),
  ),
);
</script>

<template>
  <section v-if="places.length" class="block" :aria-label="`${pair.one} against ${pair.other}`">
    <h2>{{ pair.one }} against {{ pair.other }}</h2>
    <v-table>
      <thead>
        <tr>
          <th scope="col">Patch</th>
          <th scope="col">Measure</th>
          <th scope="col" class="number"><LetterBox :letter="pair.one" /></th>
          <th scope="col" class="number"><LetterBox :letter="pair.other" /></th>
          <th scope="col">{{ pair.one }} is</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="p in places" :key="p.measure + p.frame + p.place">
          <th scope="row">
            {{ p.place }} <span class="soft">{{ p.frame }}</span>
          </th>
          <td>{{ p.title }}</td>
          <td class="number mono">{{ p.one.toPrecision(3) }}</td>
          <td class="number mono">{{ p.other.toPrecision(3) }}</td>
          <td :class="{ soft: !FIRM.includes(p.answer) }">{{ p.answer }}</td>
        </tr>
      </tbody>
    </v-table>
  </section>
</template>
