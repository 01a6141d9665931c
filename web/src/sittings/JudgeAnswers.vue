<script setup lang="ts">
// What a judge answers with: by key or by button, and why if they like.
import { useEventListener } from "@vueuse/core";

import type { Shape } from "@/api/client";

import { answerOf, choicesOf } from "./choices";

const props = defineProps<{
  kind: Shape["SeatOut"]["kind"];
  because: readonly string[];
  said: unknown;
  ready: boolean;
  first: boolean;
}>();
const emit = defineEmits<{ say: [answer: Record<string, unknown>]; back: [] }>();
const kinds = defineModel<string[]>("kinds", { required: true });

useEventListener(window, "keydown", (event: KeyboardEvent) => {
  if (event.repeat || event.ctrlKey || event.metaKey || event.altKey) return;
  const answer = answerOf(props.kind, event.key);
  if (answer && props.ready) {
    event.preventDefault();
    emit("say", answer);
  }
  if (event.key === "Backspace" && !props.first) {
    event.preventDefault();
    emit("back");
  }
});
const isSaid = (answer: Record<string, unknown>): boolean =>
  JSON.stringify(answer) === JSON.stringify(props.said);
</script>

<template>
  <footer class="foot d-flex flex-column align-center ga-2">
    <p v-if="kind === 'order'" class="soft">
      Choose the best first, then the next, to the last; or drag the pictures.
    </p>
    <div class="d-flex flex-wrap justify-center ga-2" role="group" aria-label="Your answer">
      <v-btn
        v-for="choice in choicesOf(kind)"
        :key="choice.title"
        :variant="isSaid(choice.answer) ? 'flat' : 'outlined'"
        :aria-pressed="isSaid(choice.answer)"
        :disabled="!ready"
        size="large"
        @click="emit('say', choice.answer)"
        >{{ choice.title }}</v-btn
      >
    </div>
    <div class="why d-flex flex-wrap justify-center align-center ga-2">
      <span class="soft">{{
        kind === "pairs" ? "the other one is, if you like," : "it is, if you like,"
      }}</span>
      <v-chip-group v-model="kinds" multiple column aria-label="Why">
        <v-chip v-for="word of because" :key="word" :value="word" size="small" variant="outlined">{{
          word
        }}</v-chip>
      </v-chip-group>
      <TextAction :disabled="first" @click="emit('back')">Back one</TextAction>
    </div>
    <p v-if="kind === 'pairs'" class="soft small keys">
      Keys: ← left, → right, ↓ no difference. Hold space to see the right one in the left one’s
      place; backspace goes back one.
    </p>
    <p v-else-if="kind === 'single'" class="soft small keys">
      Keys: i, p, s, a, v for the grades; backspace goes back one.
    </p>
    <p v-else class="soft small keys">
      Keys: a picture’s number, from the left, takes it as the next best, and out again; backspace
      goes back one.
    </p>
  </footer>
</template>

<style scoped>
.foot {
  padding: 12px var(--margin) 14px;
}
.why :deep(.v-chip-group) {
  padding: 0;
}
@media (max-width: 720px) {
  .keys {
    display: none;
  }
  .why {
    max-height: 96px;
    overflow: auto;
  }
}
</style>
