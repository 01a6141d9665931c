<script setup lang="ts">
// The bench's own uses: a print of a size, or a picture that is shrunk and compressed.
import { computed, reactive } from "vue";

import ChoiceBar from "@/shared/ui/ChoiceBar.vue";

import { useStudyContext } from "@/studies/shared/useStudyContext";

import { BLANK, useOf } from "./entering";
import { useUseChanges } from "./mutations";
import { useUses } from "./queries";

const open = defineModel<boolean>({ required: true });
const { canEdit } = useStudyContext();
const uses = useUses();
const own = computed(() => uses.value.filter((u) => u.row !== null));
const { add, remove, busy } = useUseChanges();
const entered = reactive({ ...BLANK });
const size = computed(() => {
  const { width, height } = useOf(entered);
  return `${width} × ${height} px`;
});
const KINDS = [
  { value: "print", title: "Print" },
  { value: "picture", title: "Picture on a screen" },
] as const;

async function save(): Promise<void> {
  if (await add(useOf(entered))) Object.assign(entered, BLANK);
}
</script>

<template>
  <v-dialog v-model="open" max-width="560" aria-labelledby="uses-title">
    <v-card>
      <h2 id="uses-title">Uses of your own</h2>
      <p class="soft pt-1">Where your readers see pictures, beside the uses that are there.</p>
      <ul v-if="own.length" class="stack pt-3">
        <li v-for="use in own" :key="use.id" class="d-flex ga-3">
          <span>{{ use.name }}</span>
          <span class="mono soft">{{ use.width }} × {{ use.height }} px, {{ use.ppi }} ppi</span>
          <TextAction v-if="canEdit" class="end" @click="remove(use)">Remove</TextAction>
        </li>
      </ul>
      <v-form v-if="canEdit" class="stack pt-4" @submit.prevent="save">
        <ChoiceBar v-model="entered.kind" label="Kind" hide-label :items="KINDS" />
        <v-text-field v-model="entered.name" label="Name" maxlength="80" />
        <div class="fields in-grid ga-3">
          <template v-if="entered.kind === 'print'">
            <NumberField v-model="entered.across" label="Width, cm" :min="1" :max="300" />
            <NumberField v-model="entered.down" label="Height, cm" :min="1" :max="300" />
          </template>
          <template v-else>
            <NumberField v-model="entered.width" label="Fits in, px across" :min="16" />
            <NumberField v-model="entered.height" label="px down" :min="16" />
            <NumberField
              v-model="entered.jpeg"
              label="JPEG quality; 0 for none"
              :min="0"
              :max="100"
            />
          </template>
          <NumberField
            v-model="entered.ppi"
            :label="entered.kind === 'print' ? 'Printed at, ppi' : 'Shown at, ppi'"
            :min="20"
            :max="2400"
          />
          <NumberField v-model="entered.distance" label="Seen from, cm" :min="5" :max="2000" />
          <NumberField v-model="entered.part" label="Part shown, %" :min="2" :max="100" />
        </div>
        <v-checkbox
          v-if="entered.kind === 'picture'"
          v-model="entered.enlarge"
          label="Enlarge smaller pictures to fill it"
        />
        <div class="dialog-acts">
          <v-btn variant="flat" type="submit" :loading="busy" :disabled="!entered.name.trim()">
            Add
          </v-btn>
          <v-btn variant="text" @click="open = false">Close</v-btn>
          <span class="mono soft end">{{ size }}</span>
        </div>
      </v-form>
      <div v-else class="dialog-acts"><v-btn @click="open = false">Close</v-btn></div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.fields {
  grid-template-columns: repeat(2, minmax(0, 1fr));
}
</style>
