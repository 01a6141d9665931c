<script setup lang="ts">
// A camera body: its name as files give it, its sensor, and its noise where it is known.
import { computed, ref, watch } from "vue";

import type { Shape } from "@/api/client";
import type { Body } from "@/api/types";
import { useBodyChanges } from "@/material/mutations";

type BodyIn = Shape["BodyIn"];
const CFAS = [
  "Bayer",
  "6 x 6",
  "2 x 2 of four each",
  "stacked layers",
  "none, monochrome",
] as const satisfies readonly BodyIn["cfa"][];
const SENSOR = [
  ["width_mm", "Sensor width", "mm"],
  ["height_mm", "Sensor height", "mm"],
  ["width", "Pixels across", "px"],
  ["height", "Pixels down", "px"],
] as const;
const NOISE = [
  ["full_well", "Full well at ISO 100", "e−"],
  ["read_noise", "Read noise", "e−"],
  ["second_gain_iso", "Second gain stage from ISO", ""],
  ["second_read_noise", "Read noise from there on", "e−"],
] as const;
type NumberName = (typeof SENSOR)[number][0] | (typeof NOISE)[number][0];

const props = defineProps<{ body?: Body; suggested?: string }>();
const open = defineModel<boolean>({ required: true });
const { busy, save: keep } = useBodyChanges();
const name = ref("");
const cfa = ref<BodyIn["cfa"]>("Bayer");
const numbers = ref<Partial<Record<NumberName, number | null>>>({});
const complete = computed(() => name.value.trim() && SENSOR.every(([key]) => numbers.value[key]));

watch(open, (now) => {
  if (!now) return;
  name.value = props.body?.name ?? props.suggested ?? "";
  cfa.value = props.body?.cfa ?? "Bayer";
  numbers.value = Object.fromEntries(
    [...SENSOR, ...NOISE].map(([key]) => [key, props.body?.[key] ?? null]),
  );
});

async function save(): Promise<void> {
  const of = (key: NumberName) => numbers.value[key] ?? null;
  const body = {
    name: name.value,
    cfa: cfa.value,
    ...Object.fromEntries([...SENSOR, ...NOISE].map(([key]) => [key, of(key)])),
  } as BodyIn;
  const made = await keep(props.body?.id, body);
  if (made) open.value = false;
}
</script>

<template>
  <v-dialog v-model="open" max-width="620">
    <v-card>
      <v-form class="stack" @submit.prevent="save">
        <h2>{{ body ? "Edit body" : "Add body" }}</h2>
        <v-text-field
          v-model="name"
          label="Name, as its files state it"
          maxlength="120"
          autofocus
        />
        <div class="fields">
          <NumberField
            v-for="[key, label, unit] in SENSOR"
            :key="key"
            v-model="numbers[key]"
            :label="label"
            :suffix="unit"
          />
        </div>
        <v-select v-model="cfa" label="Colour filters" :items="CFAS" />
        <h3>Noise, if known <span class="soft">(used by degradations)</span></h3>
        <div class="fields">
          <NumberField
            v-for="[key, label, unit] in NOISE"
            :key="key"
            v-model="numbers[key]"
            :label="label"
            :suffix="unit"
          />
        </div>
        <div class="dialog-acts">
          <v-btn type="submit" variant="flat" :loading="busy" :disabled="!complete">Save</v-btn>
          <v-btn variant="text" @click="open = false">Cancel</v-btn>
        </div>
      </v-form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
h3 span {
  font-weight: 400;
}
</style>
