<script setup lang="ts">
import { KEYS } from "./useLookKeys";

const open = defineModel<boolean>({ required: true });
</script>

<template>
  <v-dialog v-model="open" max-width="480">
    <v-card>
      <h2>Keys of the close look</h2>
      <dl>
        <template v-for="[key, what] in KEYS" :key="key">
          <dt>{{ key }}</dt>
          <dd>{{ what }}</dd>
        </template>
      </dl>
      <v-btn variant="text" autofocus @click="open = false">Close</v-btn>
    </v-card>
  </v-dialog>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 8px 24px;
  margin: 16px 0;
}
dt {
  font-family: var(--mono);
  font-size: 13px;
}
</style>
