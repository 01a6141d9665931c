<script setup lang="ts">
// Opened by ? on every page: its keys, its words, its piece of the guide.
import { computed } from "vue";
import { useRoute } from "vue-router";
import { useHotkey } from "vuetify";

import { pageOf, TERMS } from "./terms";
import { useHelp } from "./useHelp";

const { open, keys } = useHelp();
const route = useRoute();
const page = computed(() => pageOf(route.path));
const always = [{ keys: "?", does: "Open this help" }];
useHotkey("?", () => (open.value = true), { preventDefault: true });
useHotkey("shift+?", () => (open.value = true), { preventDefault: true });
</script>

<template>
  <v-dialog v-model="open" max-width="720" aria-labelledby="help-title">
    <v-card class="help overflow-y-auto">
      <h2 id="help-title">{{ page.title }}</h2>
      <p>
        <router-link :to="`/guide/${page.chapter}`" @click="open = false"
          >Read this in the user guide</router-link
        >
      </p>
      <div style="--at-least: 260px" class="in-grid ga-6 pt-4 tiles">
        <section aria-label="Keys">
          <h3>Keys</h3>
          <v-table>
            <tbody>
              <tr v-for="row in [...keys, ...always]" :key="row.keys">
                <th class="font-weight-regular text-no-wrap" scope="row">
                  <v-hotkey :keys="row.keys" variant="contained" />
                </th>
                <td>{{ row.does }}</td>
              </tr>
            </tbody>
          </v-table>
        </section>
        <section v-if="page.terms.length" aria-label="Terms">
          <h3>Terms</h3>
          <dl class="stack">
            <div v-for="term in page.terms" :key="term">
              <dt class="strong">{{ term }}</dt>
              <dd>{{ TERMS[term] }}</dd>
            </div>
          </dl>
        </section>
      </div>
      <div class="dialog-acts">
        <v-btn @click="open = false">Close</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.help {
  max-height: 86vh;
}
</style>
