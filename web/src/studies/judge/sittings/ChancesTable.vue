<script setup lang="ts">
// Contenders by the chance that they are chosen, each with its interval drawn and told.
import type { Shape } from "@/api/client";
import LetterBox from "@/shared/ui/LetterBox.vue";
import { colourOf } from "@/shared/lib/letters";

import { withBounds } from "./words";

defineProps<{
  results: Shape["ResultsOut"];
  titles: Readonly<Record<string, string>>;
}>();
const at = (share: number): string => `${(100 * share).toFixed(2)}%`;
</script>

<template>
  <v-table class="chances">
    <thead>
      <tr>
        <th scope="col">Contender</th>
        <th scope="col">Chosen over the others, where a difference was seen</th>
        <th scope="col" class="axis" aria-hidden="true">
          <span>0 %</span><span>50</span><span>100 %</span>
        </th>
        <th scope="col">Told apart from</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="s in results.standings" :key="s.contender">
        <td class="nowrap"><LetterBox :letter="s.contender" /> {{ titles[s.contender] ?? "" }}</td>
        <td class="mono nowrap">{{ withBounds(s.chance) }}</td>
        <td class="drawn">
          <svg width="100%" height="18" role="img" :aria-label="withBounds(s.chance)">
            <line x1="50%" x2="50%" y1="0" y2="18" stroke="var(--rule)" />
            <line
              :x1="at(s.chance.low)"
              :x2="at(s.chance.high)"
              y1="9"
              y2="9"
              stroke="var(--ink)"
              stroke-width="1.5"
            />
            <circle
              :cx="at(s.chance.value)"
              cy="9"
              r="4.5"
              :fill="colourOf(s.contender) ?? 'var(--ink)'"
            />
          </svg>
        </td>
        <td class="mono">
          {{
            results.duels
              .filter((d) => d.told_apart && [d.better, d.worse].includes(s.contender))
              .map((d) => (d.better === s.contender ? d.worse : d.better))
              .join(" ") || "nobody"
          }}
        </td>
      </tr>
    </tbody>
  </v-table>
</template>

<style scoped>
.nowrap {
  white-space: nowrap;
}
.drawn,
.axis {
  width: 34%;
  min-width: 180px;
}
.axis span {
  display: inline-block;
  width: 33.3%;
}
.axis span:nth-child(2) {
  text-align: center;
}
.axis span:last-child {
  text-align: right;
}
</style>
