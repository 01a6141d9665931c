<script setup lang="ts">
// Findings by contender; each opens the readings it was made from.
import { computed, ref } from "vue";

import type { Answers, Measure, Reading } from "@/api/types";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { capital, named } from "@/shared/lib/words";
import BehindList from "./BehindList.vue";
import LetterBox from "@/shared/ui/LetterBox.vue";

const props = defineProps<{
  found: Answers["findings"];
  readings: readonly Reading[];
  measures: readonly Measure[];
}>();
const { study } = useStudyContext();
const MARKS = { good: "+", bad: "−", plain: "·" } as const;
const SPOKEN = { good: "advantage: ", bad: "drawback: ", plain: "" } as const;
const opened = ref("");
const rows = computed(() =>
  props.found.map((f) => ({
    ...f,
    contender: study.value.contenders.find((c) => c.letter === f.letter),
  })),
);

const measured = (id: number | undefined) =>
  props.readings.some((r) => r.contender === id && r.value !== null);
function toggle(key: string): void {
  opened.value = opened.value === key ? "" : key;
}
</script>

<template>
  <section class="block" aria-label="Findings in words">
    <div class="block-head">
      <h2>What each contender does</h2>
      <span class="soft"
        >put in words from the readings, by rules: + better than all others, − a drawback</span
      >
    </div>
    <div class="all">
      <section
        v-for="row in rows"
        :key="row.letter"
        :aria-label="`What ${row.letter} does`"
        class="one hair-above"
      >
        <h3 class="d-flex ga-2 align-center">
          <LetterBox :letter="row.letter" />
          <span>{{ row.contender ? named(row.contender) : "" }}</span>
        </h3>
        <p v-if="!row.sentences.length" class="soft">
          {{
            measured(row.contender?.id)
              ? "Nothing stands out in what is measured."
              : "Not measured yet."
          }}
        </p>
        <ul class="bare pt-1">
          <li v-for="(sentence, i) in row.sentences" :key="i" class="in-grid py-1">
            <span
              class="mark mono font-weight-bold"
              :class="{ 'text-primary': sentence.tone === 'good' }"
              aria-hidden="true"
              >{{ MARKS[sentence.tone] }}</span
            >
            <span>
              <span class="visually-hidden">{{ SPOKEN[sentence.tone] }}</span>{{
                capital(sentence.text)
              }}.
              <TextAction
                :aria-expanded="opened === `${row.letter}${i}`"
                @click="toggle(`${row.letter}${i}`)"
              >
                {{ sentence.readings.length }}
                {{ sentence.readings.length === 1 ? "reading" : "readings" }}
              </TextAction>
              <BehindList
                v-if="opened === `${row.letter}${i}`"
                :ids="sentence.readings"
                :readings="readings"
                :measures="measures"
              />
            </span>
          </li>
        </ul>
      </section>
    </div>
  </section>
</template>

<style scoped>
.all {
  columns: 2;
  column-gap: 40px;
}
@media (max-width: 1000px) {
  .all {
    columns: 1;
  }
}
.one {
  break-inside: avoid;
  padding: 10px 0 14px;
}
li {
  grid-template-columns: 18px 1fr;
}
</style>
