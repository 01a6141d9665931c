<script lang="ts">
export interface Sample {
  letter: string;
  codes: [number, number, number];
}
</script>

<script setup lang="ts">
import { lightness } from "@/viewer/codes";
import LetterBox from "@/shared/ui/LetterBox.vue";

defineProps<{ spot: { x: number; y: number } | undefined; samples: readonly Sample[] }>();
</script>

<template>
  <footer class="readout d-flex py-2 px-5">
    <div>
      <strong>Under the pointer</strong>
      <p class="mono soft">
        {{ spot ? `frame ${spot.x.toFixed(1)}, ${spot.y.toFixed(1)}` : "move over a pane" }}
      </p>
      <p class="soft small">mean of 5 × 5 screen pixels, as shown</p>
    </div>
    <v-table v-if="samples.length" class="mono">
      <thead>
        <tr>
          <th scope="col"><span class="visually-hidden">Contender</span></th>
          <th scope="col">R</th>
          <th scope="col">G</th>
          <th scope="col">B</th>
          <th scope="col">L*</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(s, i) in samples" :key="i">
          <td><LetterBox :letter="s.letter" /></td>
          <td v-for="(code, c) in s.codes" :key="c">{{ Math.round(code) }}</td>
          <td>{{ lightness(s.codes).toFixed(1) }}</td>
        </tr>
      </tbody>
    </v-table>
    <ul class="bare soft small in-grid ga-1 end">
      <li><kbd>A</kbd> <kbd>B</kbd> … that contender into the chosen pane</li>
      <li>hold <kbd>space</kbd> next pane's contender in place</li>
      <li><kbd>Page Down</kbd> next patch</li>
      <li><kbd>?</kbd> all keys</li>
    </ul>
  </footer>
</template>

<style scoped>
.readout {
  gap: 40px;
  border-top: 1px solid var(--ink);
  min-height: 112px;
  background: var(--paper);
}
</style>
