<script setup lang="ts">
// Who did what, the newest first.
import { computed } from "vue";

import { moment } from "@/shared/lib/formats";
import { useTrail } from "./queries";

const { data, isPending, error, hasNextPage, isFetchingNextPage, fetchNextPage } = useTrail();
const rows = computed(() => data.value?.pages.flat() ?? []);
</script>

<template>
  <v-skeleton-loader v-if="isPending" type="table-tbody" />
  <v-alert v-else-if="error" type="error" :text="error.message" />
  <template v-else>
    <v-table fixed-header height="560" aria-label="Trail">
      <thead>
        <tr>
          <th scope="col">When</th>
          <th scope="col">Who</th>
          <th scope="col">What</th>
          <th scope="col">On</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.id">
          <td class="text-no-wrap">{{ moment(row.at) }}</td>
          <td>{{ row.who || "(removed account)" }}</td>
          <td>{{ row.action }}</td>
          <td>{{ row.subject }}</td>
        </tr>
      </tbody>
    </v-table>
    <v-btn
      v-if="hasNextPage"
      class="more mt-4"
      :loading="isFetchingNextPage"
      @click="fetchNextPage()"
      >Show older entries</v-btn
    >
  </template>
</template>
