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
const read = computed(() => props.speeds.filter((of) => of.isos.length));
const rows = computed(() => {
  const isos = new Set(read.value.flatMap((of) => of.isos.map((at) => at.iso)));
  return [...isos]
    .sort((a, b) => a - b)
    .map((iso) => ({ iso, cells: read.value.map((of) => of.isos.find((at) => at.iso === iso)) }));
});
/** A distance with half of its interval. */
function ev([value = 0, low = 0, high = 0]: readonly number[]): string {
  return `${value > 0 ? "+" : ""}${fixed(value, 2)} ±${fixed((high - low) / 2, 3)}`;
}
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
            <th scope="col" class="number iso">ISO as claimed</th>
            <th v-for="of in read" :key="of.body" scope="col" class="number">
              {{ of.body }} <span class="soft">and EV from the claim</span>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.iso">
            <th scope="row" class="mono number">{{ row.iso.toLocaleString("en-GB") }}</th>
            <td v-for="(at, i) in row.cells" :key="i" class="number">
              <span v-if="at?.speed && at.above" class="mono">
                {{ Math.round(at.speed[0] ?? 0).toLocaleString("en-GB") }}
                <span class="soft">{{ ev(at.above) }}</span>
              </span>
              <span v-else class="soft">{{ at?.reason ?? "–" }}</span>
            </td>
          </tr>
        </tbody>
      </v-table>
    </template>
  </section>
</template>

<style scoped>
.iso {
  width: 160px;
}
.number-in {
  max-width: 220px;
}
</style>
