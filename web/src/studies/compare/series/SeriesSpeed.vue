<script setup lang="ts">
// Saturation-based speed: what a meter told of a spot, and the speed of each body’s codes there.
import { computed, reactive, ref, watch } from "vue";

import type { Shape } from "@/api/client";
import type { SeriesFound } from "@/api/types";
import { fixed } from "@/shared/lib/words";

import { useSeriesChanges } from "./queries";

const props = defineProps<{
  studyId: number;
  found: SeriesFound;
  metered?: Shape["SeriesOut"]["metered"];
  speeds: readonly Shape["BodySpeedsOut"][];
  canEdit: boolean;
}>();
const { busy, meter, forgetMeter } = useSeriesChanges(() => props.studyId);
const changing = ref(false);
const spot = ref("");
const luminance = ref<number>();
const lenses = reactive<Record<string, number | undefined>>({});
const spots = computed(() =>
  props.found.spots.map((s) => ({ value: String(s.patch), title: s.name })),
);
const names = computed(() => props.found.bodies.map((b) => b.name));
const ready = computed(() => !!luminance.value && names.value.some((name) => lenses[name]));
const rows = computed(() =>
  props.speeds.flatMap((of) => of.isos.map((at) => ({ ...at, body: of.body }))),
);
const signed = (v: number): string => (v > 0 ? "+" : "") + fixed(v, 2);
const where = computed(
  () => props.found.spots.find((s) => s.patch === props.metered?.patch)?.name ?? "a patch",
);

watch(
  () => props.metered,
  (told) => {
    spot.value = String(told?.patch ?? props.found.spots[0]?.patch ?? "");
    luminance.value = told?.luminance;
    for (const name of names.value) lenses[name] = told?.t_numbers[name];
  },
  { immediate: true },
);

async function keep(): Promise<void> {
  const given = names.value.flatMap((name) => (lenses[name] ? [[name, lenses[name]]] : []));
  const told = {
    patch: Number(spot.value),
    luminance: luminance.value ?? 0,
    t_numbers: Object.fromEntries(given) as Record<string, number>,
  };
  if ((await meter(told)) !== undefined) changing.value = false;
}
async function forget(): Promise<void> {
  await forgetMeter();
  changing.value = false;
}
</script>

<template>
  <section class="block" aria-label="Saturation-based speed">
    <div class="block-head">
      <h2>Saturation-based speed</h2>
      <span class="soft">ISO 12232:2019: 78 over the exposure that fills the codes</span>
      <TextAction
        v-if="canEdit && !changing"
        :aria-label="metered ? 'Change luminance' : 'Enter luminance'"
        @click="changing = true"
        >{{ metered ? "Change" : "Enter a luminance" }}</TextAction
      >
    </div>
    <p v-if="!metered && !changing" class="soft py-1">
      Not known: the mosaics tell how bright bodies are against each other; a speed takes a patch’s
      luminance by a meter and the T-number that each lens was set to.
    </p>
    <v-form v-if="changing" class="py-2" @submit.prevent="keep">
      <div class="d-flex flex-wrap ga-3 align-end">
        <v-select
          v-model="spot"
          label="Patch near the middle"
          :items="spots"
          max-width="240"
          hide-details
        />
        <NumberField v-model="luminance" label="Its luminance" suffix="cd/m²" class="number-in" />
        <NumberField
          v-for="name in names"
          :key="name"
          v-model="lenses[name]"
          :label="`T-number, ${name}`"
          class="number-in"
        />
      </div>
      <div class="d-flex ga-2 pt-2">
        <v-btn type="submit" variant="flat" :loading="busy" :disabled="!ready">Save</v-btn>
        <v-btn variant="text" @click="changing = false">Cancel</v-btn>
        <v-btn v-if="metered" variant="text" :loading="busy" @click="forget">Remove</v-btn>
      </div>
    </v-form>
    <template v-if="metered">
      <p class="soft py-1">
        At {{ where }}, {{ metered.luminance.toLocaleString("en-GB") }} cd/m², of a far scene:
        exposure is π/4 · luminance · shutter / T². A meter and a T-number are known to a tenth of a
        stop at best, which is not in the intervals.
      </p>
      <p v-for="of in speeds" :key="of.body" class="py-1">
        <strong>{{ of.body }}.</strong> {{ of.said }}
      </p>
      <v-table v-if="rows.length">
        <thead>
          <tr>
            <th scope="col">Body</th>
            <th scope="col" class="number">ISO as claimed</th>
            <th scope="col" class="number">Saturation-based speed</th>
            <th scope="col" class="number">EV from the claim</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="at in rows" :key="`${at.body}/${at.iso}`">
            <td>{{ at.body }}</td>
            <th scope="row" class="mono number">{{ at.iso.toLocaleString("en-GB") }}</th>
            <template v-if="at.speed && at.above">
              <td class="mono number">
                {{ Math.round(at.speed[0] ?? 0).toLocaleString("en-GB") }}
                <span class="soft"
                  >{{ fixed(at.speed[1] ?? 0, 0) }} to {{ fixed(at.speed[2] ?? 0, 0) }}</span
                >
              </td>
              <td class="mono number">{{ signed(at.above[0] ?? 0) }}</td>
            </template>
            <td v-else colspan="2" class="soft">{{ at.reason }}</td>
          </tr>
        </tbody>
      </v-table>
    </template>
  </section>
</template>

<style scoped>
.number-in {
  max-width: 220px;
}
</style>
