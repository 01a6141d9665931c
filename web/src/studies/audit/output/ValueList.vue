<script setup lang="ts">
import type { Told } from "./examined";

defineProps<{ rows: readonly Told[]; label: string }>();
</script>

<template>
  <v-table :aria-label="label">
    <tbody>
      <tr v-for="row in rows" :key="row.name">
        <th scope="row">{{ row.name }}</th>
        <td class="mono number">
          {{ row.text }} <span class="soft">{{ row.half }}</span>
        </td>
      </tr>
    </tbody>
  </v-table>
</template>
