<script setup lang="ts">
import { computed, ref, watch } from "vue";

import type { Shape } from "@/api/client";
import { day } from "@/shared/lib/formats";
import LetterBox from "@/shared/ui/LetterBox.vue";
import { sure } from "./retest";

type Retest = Shape["RetestOut"];
const { retests } = defineProps<{ retests: readonly Retest[]; busy: boolean }>();
const open = defineModel<boolean>({ required: true });
const emit = defineEmits<{ begin: [body: Shape["RetestIn"]] }>();
const which = ref<number>();
const chosen = ref<number[]>([]);
const keep = ref(true);
const run = ref(true);
const retest = computed(() => retests.find((r) => r.release === which.value));
const items = computed(() =>
  retests.map((r) => ({
    value: r.release,
    title: r.released ? `${r.title}, ${day(`${r.released}T12:00`)}` : r.title,
  })),
);
watch(open, (is) => {
  if (is) which.value = retests[0]?.release;
});
watch(retest, (to) => (chosen.value = sure(to)), { immediate: true });

function begin(): void {
  if (!which.value || !chosen.value.length) return;
  emit("begin", {
    release: which.value,
    contenders: chosen.value,
    keep: keep.value,
    run: run.value && !!retest.value?.runs,
  });
}
</script>

<template>
  <v-dialog v-model="open" max-width="640" scrollable>
    <v-card>
      <v-form class="in-grid ga-4" @submit.prevent="begin">
        <h2>Test again</h2>
        <p>
          The same frames, patches and settings with another release. Each contender is added under
          a letter of its own; the next edition says what changed.
        </p>
        <v-select v-model="which" :items="items" label="Release" />
        <ul class="bare" aria-label="Contenders to test again">
          <li v-for="p in retest?.proposals" :key="p.contender" class="py-2 hair-below">
            <div class="d-flex ga-2 align-center">
              <v-checkbox
                v-model="chosen"
                :value="p.contender"
                :disabled="!!p.there"
                :aria-label="`Test ${p.letter} again`"
                hide-details
              />
              <LetterBox :letter="p.letter" />
              <span
                >{{ p.title }}<template v-if="p.manner">, {{ p.manner }}</template></span
              >
            </div>
            <p v-if="p.there" class="soft">{{ p.there }} is this already.</p>
            <p v-for="words in p.asked" :key="words" class="rowan">{{ words }}</p>
          </li>
        </ul>
        <v-checkbox v-model="keep" label="Keep the old ones beside them" hide-details />
        <v-checkbox v-if="retest?.runs" v-model="run" label="Make the outputs now" hide-details />
        <p v-else class="soft">
          {{ retest?.title }} cannot be run here: bring its outputs in afterwards.
        </p>
        <div class="dialog-acts">
          <v-btn type="submit" :loading="busy" :disabled="!chosen.length">Test again</v-btn>
          <v-btn variant="text" @click="open = false">Cancel</v-btn>
        </div>
      </v-form>
    </v-card>
  </v-dialog>
</template>
