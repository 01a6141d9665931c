<script setup lang="ts">
// What lies on the disk, and what of it nothing needs any more.
import { useQuery } from "@tanstack/vue-query";

import { bytes } from "@/shared/lib/formats";
import { storage } from "./queries";

const { data, isPending, error } = useQuery(storage);
const WORDS: Record<string, string> = {
  originals: "Originals: files as they were uploaded",
  derived: "Derived files: display copies and exports, made again when needed",
  editions: "Published editions",
};
</script>

<template>
  <v-skeleton-loader v-if="isPending" type="table-tbody" />
  <v-alert v-else-if="error" type="error" :text="error.message" />
  <template v-else-if="data">
    <v-table class="sizes" aria-label="Storage">
      <thead>
        <tr>
          <th scope="col">Kept</th>
          <th scope="col" class="number">Files</th>
          <th scope="col" class="number">Size</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in data.kept" :key="row.kind">
          <td>{{ WORDS[row.kind] ?? row.kind }}</td>
          <td class="number mono">{{ row.files.toLocaleString("en-GB") }}</td>
          <td class="number mono">{{ bytes(row.bytes) }}</td>
        </tr>
      </tbody>
    </v-table>
    <h2 class="next">Can be removed</h2>
    <p v-if="!data.removable.length" class="soft">Nothing: everything on the disk is needed.</p>
    <v-table v-else class="sizes" aria-label="Can be removed">
      <tbody>
        <tr v-for="row in data.removable" :key="row.kind">
          <td>{{ row.kind }}</td>
          <td class="number mono">{{ row.files.toLocaleString("en-GB") }}</td>
          <td class="number mono">{{ bytes(row.bytes) }}</td>
        </tr>
      </tbody>
    </v-table>
    <p class="soft next">
      Files that nothing needs are removed by themselves after a week. Whoever runs the server can
      do it at once with <code class="mono">manage.py purge</code>.
    </p>
  </template>
</template>

<style scoped>
.sizes {
  max-width: 720px;
}
.number {
  text-align: right !important;
}
.next {
  margin-top: 26px;
}
</style>
