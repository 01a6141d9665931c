<script setup lang="ts">
// Contenders in columns, uses in rows: how easily the difference is seen.
import { computed } from "vue";

import type { Shape } from "@/api/client";
import LetterBox from "@/shared/ui/LetterBox.vue";
import { SEEN_WORDS, shareText } from "@/studies/compare/questions/questions";

const props = defineProps<{ found: Shape["VisibilityFoundOut"] }>();
/** Letter, use and frame of the cell that is looked into. */
const chosen = defineModel<string>();
const letters = computed(() => [...new Set(props.found.cells.map((c) => c.letter))]);
const rows = computed(() =>
  props.found.uses.map((use) => ({
    use,
    cells: letters.value.map((letter) => ({
      letter,
      seen: props.found.matrix.find((c) => c.letter === letter && c.use === use.id),
      problem: props.found.cells.find((c) => c.letter === letter && c.use === use.id && c.problem)
        ?.problem,
    })),
  })),
);
const isChosen = (letter: string, use: string) =>
  chosen.value?.startsWith(`${letter}/${use}/`) ?? false;
</script>

<template>
  <div class="scroll" tabindex="0" role="group" aria-label="Seen, by use and contender">
    <v-table :style="{ minWidth: `${240 + 150 * letters.length}px` }">
      <thead>
        <tr>
          <th scope="col" style="width: 240px">Seen against {{ found.against }}</th>
          <th v-for="letter in letters" :key="letter" scope="col">
            <LetterBox :letter="letter" />
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="{ use, cells } in rows" :key="use.id">
          <th scope="row">{{ use.short }}</th>
          <td v-for="{ letter, seen, problem } in cells" :key="letter">
            <template v-if="seen">
              <v-btn
                variant="text"
                size="small"
                class="seen px-1"
                :class="[seen.seen.replaceAll(' ', '-'), { chosen: isChosen(letter, use.id) }]"
                :aria-pressed="isChosen(letter, use.id)"
                :aria-label="`${letter} as ${use.short}: ${seen.seen}`"
                @click="chosen = `${letter}/${use.id}/${seen.frame}`"
                >{{ SEEN_WORDS[seen.seen] }}</v-btn
              >
              <span class="soft sub d-block px-1"
                ><span class="mono">{{ shareText(seen.share) }}</span
                ><template v-if="seen.of > 1">, {{ seen.frames }} of {{ seen.of }} frames</template>
              </span>
            </template>
            <span v-else class="soft small">{{ problem ?? "–" }}</span>
          </td>
        </tr>
      </tbody>
    </v-table>
  </div>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
.seen {
  min-width: 0;
}
.seen-at-once {
  font-weight: 650;
}
.seen-by-nobody {
  font-weight: 400;
  color: var(--soft);
}
.chosen {
  text-decoration: underline;
  text-underline-offset: 4px;
}
</style>
