<script setup lang="ts">
// What a pane shows: any contender by its letter, its name, how large and under which light.
import type { Contender } from "@/api/types";
import LetterBox from "@/shared/ui/LetterBox.vue";
import { named } from "@/shared/lib/words";
import { callsBrief, callsTold, type NamedCall } from "@/studies/shared/namedCalls";

defineProps<{
  contender: Contender;
  /** The one it differs from, or that lies under its boundary. */
  other: Contender | undefined;
  joint: string;
  choices: readonly Contender[];
  magnification: string;
  light: string;
  calls: readonly NamedCall[];
  pinned: boolean;
}>();
const emit = defineEmits<{ show: [letter: string]; pin: [] }>();
</script>

<template>
  <header class="head in-grid align-content-center px-3 rule-below shrinks">
    <div class="d-flex align-center ga-1 overflow-x-auto" role="group" aria-label="Shows">
      <IconAction
        v-for="c in choices"
        :key="c.id"
        class="chip"
        :aria-label="`${c.letter}, ${named(c)}`"
        :aria-pressed="c.id === contender.id"
        @click="emit('show', c.letter)"
      >
        <LetterBox :letter="c.letter" />
      </IconAction>
      <TextAction class="pin end small" :aria-pressed="pinned" @click="emit('pin')">
        {{ pinned ? "Pinned" : "Pin" }}
      </TextAction>
    </div>
    <p class="d-flex ga-3 small">
      <span class="text-truncate shrinks">
        {{ named(contender) }}
        <template v-if="other">{{ joint }} {{ other.letter }}, {{ named(other) }}</template>
      </span>
      <span v-if="calls.length" class="soft text-no-wrap" :title="callsTold(calls)">{{
        callsBrief(calls)
      }}</span>
      <span v-if="light" class="mono end text-no-wrap">{{ light }}</span>
      <span class="mono soft text-truncate shrinks" :class="{ end: !light }">{{
        magnification
      }}</span>
    </p>
  </header>
</template>

<style scoped>
.head {
  grid-template-columns: minmax(0, 1fr);
}
/* Stays in sight however many letters there are. */
.head .pin {
  position: sticky;
  right: 0;
  padding-left: 6px;
  background: var(--paper);
}
.chip {
  height: 26px;
  padding: 0 3px;
  border-bottom: 2px solid transparent;
}
.chip[aria-pressed="true"] {
  border-bottom-color: var(--ink);
}
</style>
