<script setup lang="ts">
// A camera body: its name as files give it, its sensor, and its noise where it is known.
import { computed, ref, watch } from "vue";

import { api, ask, type Shape } from "@/api/client";
import type { Body } from "@/api/queries";
import { useAct } from "@/shared/lib/useAct";

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
  ["full_well", "Full well at ISO 100", "e-"],
  ["read_noise", "Read noise", "e-"],
  ["second_gain_iso", "Second gain stage from ISO", ""],
  ["second_read_noise", "Read noise from there on", "e-"],
] as const;
type NumberName = (typeof SENSOR)[number][0] | (typeof NOISE)[number][0];

const props = defineProps<{ body?: Body; suggested?: string }>();
const open = defineModel<boolean>({ required: true });
const { busy, act } = useAct();
const name = ref("");
const cfa = ref<BodyIn["cfa"]>("Bayer");
const numbers = ref<Partial<Record<NumberName, string>>>({});
const complete = computed(() => name.value.trim() && SENSOR.every(([key]) => numbers.value[key]));

watch(open, (now) => {
  if (!now) return;
  name.value = props.body?.name ?? props.suggested ?? "";
  cfa.value = props.body?.cfa ?? "Bayer";
  numbers.value = Object.fromEntries(
    [...SENSOR, ...NOISE].map(([key]) => [key, String(props.body?.[key] ?? "")]),
  );
});

async function save(): Promise<void> {
  const of = (key: NumberName) => (numbers.value[key] ? Number(numbers.value[key]) : null);
  const body = {
    name: name.value,
    cfa: cfa.value,
    ...Object.fromEntries([...SENSOR, ...NOISE].map(([key]) => [key, of(key)])),
  } as BodyIn;
  const id = props.body?.id;
  const params = { path: { body_id: id ?? 0 } };
  const made = await act(() =>
    id
      ? ask(api.PUT("/api/bodies/{body_id}", { params, body }))
      : ask(api.POST("/api/bodies", { body })),
  );
  if (made) open.value = false;
}
</script>

<template>
  <v-dialog v-model="open" max-width="620">
    <v-card>
      <form class="form" @submit.prevent="save">
        <h2>{{ body ? "Body" : "New body" }}</h2>
        <v-text-field v-model="name" label="Name, as its files give it" maxlength="120" autofocus />
        <div class="grid">
          <v-text-field
            v-for="[key, label, unit] in SENSOR"
            :key="key"
            v-model="numbers[key]"
            :label="label"
            :suffix="unit"
            type="number"
            step="any"
            min="0"
          />
        </div>
        <label>
          <span class="soft">Colour filters </span>
          <select v-model="cfa" class="quiet-select">
            <option v-for="c in CFAS" :key="c">{{ c }}</option>
          </select>
        </label>
        <h3>Noise, where it is known <span class="soft">(known degradations can use it)</span></h3>
        <div class="grid">
          <v-text-field
            v-for="[key, label, unit] in NOISE"
            :key="key"
            v-model="numbers[key]"
            :label="label"
            :suffix="unit"
            type="number"
            step="any"
            min="0"
          />
        </div>
        <div class="acts">
          <v-btn type="submit" variant="flat" :loading="busy" :disabled="!complete"
            >Save the body</v-btn
          >
          <v-btn variant="text" @click="open = false">Cancel</v-btn>
        </div>
      </form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.form {
  display: grid;
  gap: 16px;
}
.grid {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 14px;
}
h3 span {
  font-weight: 400;
}
.acts {
  display: flex;
  gap: 10px;
}
</style>
