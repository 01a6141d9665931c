<script setup lang="ts">
// What exactly differs between two contenders.
import { useQuery } from "@tanstack/vue-query";
import { computed, ref } from "vue";

import { api, ask } from "@/api/client";
import type { Contender } from "@/api/queries";
import { named } from "@/shared/lib/words";

const props = defineProps<{ contenders: Contender[] }>();
const left = ref(props.contenders[0]?.id ?? 0);
const right = ref(props.contenders[1]?.id ?? 0);
const path = computed(() => ({ contender_id: left.value, other_id: right.value }));
const { data } = useQuery({
  queryKey: computed(() => ["differences", left.value, right.value]),
  queryFn: () =>
    ask(
      api.GET("/api/contenders/{contender_id}/against/{other_id}", {
        params: { path: path.value },
      }),
    ),
  enabled: computed(() => left.value !== right.value && left.value > 0 && right.value > 0),
});
const rows = computed(() => (left.value === right.value ? [] : (data.value ?? [])));
const letter = (id: number): string => props.contenders.find((c) => c.id === id)?.letter ?? "";
</script>

<template>
  <div class="differ">
    <h3>What differs between</h3>
    <select v-model.number="left" class="quiet-select" aria-label="One contender">
      <option v-for="c in contenders" :key="c.id" :value="c.id">
        {{ c.letter }}, {{ named(c) }}
      </option>
    </select>
    <span>and</span>
    <select v-model.number="right" class="quiet-select" aria-label="The other contender">
      <option v-for="c in contenders" :key="c.id" :value="c.id">
        {{ c.letter }}, {{ named(c) }}
      </option>
    </select>
    <table v-if="rows.length" class="plain">
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
    </table>
    <p v-else-if="left === right" class="soft">Choose two different ones.</p>
    <p v-else-if="data" class="soft">Nothing: both say the same.</p>
  </div>
</template>

<style scoped>
.differ {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: baseline;
  padding-top: 16px;
}
select {
  max-width: 340px;
}
table {
  width: auto;
  min-width: 460px;
  flex-basis: 100%;
}
th {
  font-weight: 400;
  text-align: left;
}
</style>
