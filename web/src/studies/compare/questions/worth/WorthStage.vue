<script setup lang="ts">
// Price and speed beside noise and detail; nothing is added up to a single score.
import { refDebounced } from "@vueuse/core";
import { computed } from "vue";

import TradeChart from "@/charts/TradeChart.vue";
import { bytes } from "@/shared/lib/formats";
import { useAddress } from "@/shared/lib/useAddress";
import ChoiceBar from "@/shared/ui/ChoiceBar.vue";
import LetterBox from "@/shared/ui/LetterBox.vue";
import CompareTabs from "@/studies/compare/CompareTabs.vue";
import { useWorth } from "@/studies/compare/questions/queries";
import QuestionTabs from "@/studies/compare/questions/QuestionTabs.vue";
import { useStudyContext } from "@/studies/shared/useStudyContext";

import { type Across, type Up, worthTrade } from "./worth";

const { study } = useStudyContext();
const { inAddress } = useAddress();
const pictures = inAddress("pictures", () => "1000");
const years = inAddress("years", () => "3");
const batch = inAddress("batch", () => "100");
const megapixels = inAddress("mp", () => "24");
const across = inAddress("across", () => "seconds");
const up = inAddress("up", () => "detail");
const asked = refDebounced(
  computed(() => ({
    pictures: Number(pictures.value),
    years: Number(years.value),
    batch: Number(batch.value),
    megapixels: Number(megapixels.value),
  })),
  250,
);
const { data, error } = useWorth(() => study.value.id, asked);
const rows = computed(() =>
  (data.value?.rows ?? []).map((row) => ({
    row,
    contender: study.value.contenders.find((c) => c.letter === row.letter),
  })),
);
const trade = computed(() =>
  worthTrade(data.value?.rows ?? [], across.value as Across, up.value as Up),
);
const names = computed(() => ({
  x:
    across.value === "amount"
      ? `${data.value?.rows.find((r) => r.currency)?.currency ?? ""} a picture`
      : `seconds for ${batch.value} pictures`,
  y: up.value === "noise" ? "noise, 8-bit levels" : "detail kept, %",
}));
</script>

<template>
  <div class="toolbar"><CompareTabs /></div>
  <div class="toolbar"><QuestionTabs /></div>
  <div class="fields narrow-fields py-3">
    <v-text-field v-model="pictures" label="Pictures a year" inputmode="decimal" hide-details />
    <v-text-field
      v-model="years"
      label="A licence is used for"
      suffix="years"
      inputmode="decimal"
      hide-details
    />
    <v-text-field
      v-model="batch"
      label="A batch has"
      suffix="pictures"
      inputmode="decimal"
      hide-details
    />
    <v-text-field
      v-model="megapixels"
      label="Each has"
      suffix="MP"
      inputmode="decimal"
      hide-details
    />
  </div>
  <p v-if="error" class="rowan" role="alert">{{ error.message }}</p>
  <template v-if="data">
    <div class="scroll" tabindex="0" role="region" aria-label="Price and speed">
      <v-table>
        <thead>
          <tr>
            <th scope="col">Contender</th>
            <th scope="col" class="number">A picture costs</th>
            <th scope="col" class="number">The batch waits</th>
            <th scope="col" class="number">An output takes</th>
            <th scope="col" class="number">Noise</th>
            <th scope="col" class="number">Detail kept</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="{ row, contender } in rows" :key="row.letter">
            <th scope="row">
              <span class="d-flex ga-2 align-center"
                ><LetterBox :letter="row.letter" /> {{ contender?.title }}</span
              >
              <span class="soft small">{{ row.said }}</span>
            </th>
            <td class="number mono">{{ row.costs }}</td>
            <td class="number mono">
              {{ row.waits }}<span v-if="row.by_hand" class="soft"> by hand</span>
            </td>
            <td class="number mono">{{ row.size_bytes === null ? "–" : bytes(row.size_bytes) }}</td>
            <td class="number mono">{{ row.noise ? row.noise.value.toPrecision(3) : "–" }}</td>
            <td class="number mono">
              {{ row.detail ? `${row.detail.value.toPrecision(3)} %` : "–" }}
            </td>
          </tr>
        </tbody>
      </v-table>
    </div>
    <p class="soft small prose py-2">
      Of each tool the way to pay that is cheapest at so many pictures counts; what is paid once is
      spread over the years. Waiting is one picture after another
      <template v-if="data.machines.length"> on {{ data.machines.join("; ") }}</template
      >. Noise and detail are medians over all patches.
    </p>
    <section v-if="trade.points.length" class="block" aria-label="Beside what is got for it">
      <div class="block-head middle">
        <h2>Beside what is got for it</h2>
        <span class="end row middle ga-2">
          <ChoiceBar
            v-model="across"
            label="Across"
            :items="[
              { value: 'seconds', title: 'Waiting' },
              { value: 'amount', title: 'Cost' },
            ]"
          />
          <ChoiceBar
            v-model="up"
            label="Up"
            :items="[
              { value: 'detail', title: 'Detail' },
              { value: 'noise', title: 'Noise' },
            ]"
          />
        </span>
      </div>
      <TradeChart :trade="trade" title="Price and speed" :x-name="names.x" :y-name="names.y" />
    </section>
  </template>
</template>

<style scoped>
.narrow-fields {
  max-width: 760px;
}
.scroll {
  overflow-x: auto;
}
</style>
