<script setup lang="ts">
// The page's answer: a paragraph for each type of patch; every clause opens what it was made from.
import { ref } from "vue";

import type { Answers, Measure, Reading } from "@/api/types";
import LetterBox from "@/shared/ui/LetterBox.vue";
import BehindList from "./BehindList.vue";
import { clausesOf, overWords } from "./paragraphs";

const props = defineProps<{
  paragraphs: Answers["paragraphs"];
  readings: readonly Reading[];
  measures: readonly Measure[];
}>();
const opened = ref("");
const nameOf = (id: string): string => props.measures.find((m) => m.id === id)?.name ?? id;

function toggle(key: string): void {
  opened.value = opened.value === key ? "" : key;
}
</script>

<template>
  <section class="answer" aria-label="The answer">
    <div v-for="p in paragraphs" :key="p.role" class="pb-2">
      <p>
        <strong>{{ p.about }}:</strong>{{ " "
        }}<template v-for="(c, i) in clausesOf(p)" :key="i"
          >{{ c.joint
          }}<TextAction
            class="clause"
            :aria-expanded="opened === `${p.role}${i}`"
            :aria-label="`${c.before} ${c.letters.join(', ')} ${c.after}`.trim()"
            @click="toggle(`${p.role}${i}`)"
            >{{ c.before }}<LetterBox v-for="l in c.letters" :key="l" :letter="l" /><span
              v-if="c.after"
              >{{ c.after }}</span
            ></TextAction
          ></template
        >. <span class="soft over">{{ nameOf(p.measure) }}, {{ overWords(p.places) }}</span>
      </p>
      <template v-for="(c, i) in clausesOf(p)" :key="i">
        <div v-if="opened === `${p.role}${i}`" class="behind">
          <BehindList
            :ids="c.readings"
            :readings="readings"
            :measures="measures"
            :lettered="c.letters.length > 1"
          />
        </div>
      </template>
    </div>
  </section>
</template>

<style scoped>
.answer {
  padding: 14px 0 4px;
  font-size: 17px;
  line-height: 1.55;
}
.clause {
  color: var(--ink);
  text-decoration: none;
}
.clause :deep(.v-btn__content) {
  gap: 4px;
  align-items: center;
  border-bottom: 1px solid var(--spruce);
}
.over {
  font-size: 14px;
}
.behind {
  max-width: 620px;
}
</style>
