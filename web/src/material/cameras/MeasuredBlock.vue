<script setup lang="ts">
// What a body's raw files say of its sensor, ISO by ISO, beside what was typed in.
import { computed } from "vue";

import type { Body } from "@/api/types";
import { useBodyChanges } from "@/material/mutations";
import { day } from "@/shared/lib/formats";
import { counted, fixed } from "@/shared/lib/words";

import { useMeasured } from "./queries";
import { columnsOf, halfTold, lacking, sensorCsv } from "./sensor";

const props = defineProps<{ body: Body; canEdit: boolean }>();
const { data, error } = useMeasured(() => props.body.id);
const { busy, measure, save } = useBodyChanges();
const facts = computed(() => data.value?.found ?? undefined);
const columns = computed(() => (facts.value ? columnsOf(facts.value) : []));
const stated = computed(() => facts.value?.stated);
const same = computed(
  () =>
    !!stated.value &&
    Object.entries(stated.value).every(([key, value]) => props.body[key as keyof Body] === value),
);

const grouped = (v: number, digits: number): string =>
  digits ? fixed(v, digits) : Math.round(v).toLocaleString("en-GB");

function takeOver(): void {
  if (stated.value) void save(props.body.id, { ...props.body, ...stated.value });
}
</script>

<template>
  <section v-if="data" class="pt-2" :aria-label="`Measured of ${body.name}`">
    <h3 class="d-flex ga-3 align-baseline flex-wrap">
      Measured
      <span v-if="data.taken" class="soft font-weight-regular">
        {{ day(data.taken) }}, from {{ counted(data.frames, "raw file") }} by photon transfer
      </span>
      <span v-else class="soft font-weight-regular">
        {{
          data.frames
            ? `not yet; ${counted(data.frames, "raw file")} on this bench`
            : "no raw file on this bench names it: bring in pairs of its raw files"
        }}
      </span>
      <TextAction
        v-if="canEdit && data.frames && data.state !== 'waiting' && data.state !== 'ready'"
        :disabled="busy"
        :aria-label="`Measure ${body.name}`"
        @click="measure(body.id)"
        >{{ data.state === "none" ? "Measure" : "Measure again" }}</TextAction
      >
      <a
        v-if="facts"
        class="font-weight-regular"
        :href="sensorCsv(body.name, facts)"
        :download="`${body.name}, measured.csv`"
        :aria-label="`Measured of ${body.name} as CSV`"
        >CSV</a
      >
    </h3>
    <p v-if="error" class="rowan">{{ error.message }}</p>
    <p v-if="data.state === 'waiting'" class="soft" role="status">Its raw files are being read.</p>
    <p v-else-if="data.state === 'failed'" class="rowan" role="alert">{{ data.problem }}</p>
    <p v-else-if="data.state === 'old'" class="soft">Raw files came or went since then.</p>
    <template v-if="facts">
      <p class="py-1">{{ facts.said }}</p>
      <div class="overflow-auto" tabindex="0" role="region" :aria-label="`Sensor of ${body.name}`">
        <v-table>
          <thead>
            <tr>
              <th scope="col" class="number">ISO</th>
              <th v-for="(c, i) in columns" :key="i" scope="col" class="number">
                {{ c.title }} <span class="soft">{{ c.unit }}</span>
              </th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="at in facts.isos" :key="at.iso">
              <th scope="row" class="mono number">{{ at.iso.toLocaleString("en-GB") }}</th>
              <td v-for="(c, i) in columns" :key="i" class="mono number">
                <template v-if="c.of(at)">
                  {{ grouped(c.of(at)?.[0] ?? 0, c.digits) }}
                  <span class="soft">{{ halfTold(c.of(at) ?? [], c.digits) }}</span>
                </template>
                <span v-else class="soft">–</span>
              </td>
            </tr>
          </tbody>
        </v-table>
      </div>
      <details v-if="lacking(facts).length || data.alone.length">
        <summary class="summary">What is not known, and what to shoot for it</summary>
        <ul class="pl-5">
          <li v-for="words in [...lacking(facts), ...data.alone]" :key="words">{{ words }}</li>
        </ul>
      </details>
      <p v-if="canEdit && stated && !same" class="py-1">
        <TextAction :disabled="busy" @click="takeOver"
          >Use the measured noise for degradations</TextAction
        >
        <span class="soft">
          full well {{ stated.full_well.toLocaleString("en-GB") }} e−, read noise
          {{ stated.read_noise }} e−<template v-if="stated.second_gain_iso"
            >, {{ stated.second_read_noise }} e− from ISO {{ stated.second_gain_iso }} on</template
          >
        </span>
      </p>
    </template>
  </section>
</template>

<style scoped>
.summary {
  min-height: 28px;
  cursor: pointer;
}
</style>
