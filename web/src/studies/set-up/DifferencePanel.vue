<script setup lang="ts">
// What exactly differs between two contenders.
import { computed, ref } from "vue";

import type { Contender } from "@/api/types";
import { named } from "@/shared/lib/words";
import QuietSelect from "@/shared/ui/QuietSelect.vue";

import { useDifferences } from "./queries";

const props = defineProps<{ contenders: Contender[] }>();
const left = ref(props.contenders[0]?.id ?? 0);
const right = ref(props.contenders[1]?.id ?? 0);
const { data } = useDifferences(left, right);
const items = computed(() =>
  props.contenders.map((c) => ({ value: c.id, title: `${c.letter}, ${named(c)}` })),
);
const rows = computed(() => (left.value === right.value ? [] : (data.value ?? [])));
const letter = (id: number): string => props.contenders.find((c) => c.id === id)?.letter ?? "";
</script>

<template>
  <section class="pt-4" aria-label="Differences between two contenders">
    <div class="row middle">
      <h3>Differences between</h3>
      <QuietSelect v-model="left" label="One" :items="items" />
      <QuietSelect v-model="right" label="Other" :items="items" />
    </div>
    <v-table v-if="rows.length" class="narrow">
      <thead>
        <tr>
          <th scope="col"><span class="visually-hidden">What</span></th>
          <th scope="col">{{ letter(left) }}</th>
          <th scope="col">{{ letter(right) }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(d, i) in rows" :key="i">
          <th scope="row">{{ [d.where, d.what].filter(Boolean).join(", ") }}</th>
          <td>{{ d.left }}</td>
          <td>{{ d.right }}</td>
        </tr>
      </tbody>
    </v-table>
    <p v-else-if="left === right" class="soft">Choose two different contenders.</p>
    <p v-else-if="data" class="soft">None: both have the same steps and settings.</p>
  </section>
</template>
