<script setup lang="ts">
// Patches that a frame suggests, each with the reason, to be taken one by one or all.
import { computed } from "vue";

import type { Patch, Suggestion } from "@/api/queries";
import { untaken } from "./patches";
import { capital } from "@/shared/lib/words";

const props = defineProps<{
  found: { ready: boolean; suggestions: readonly Suggestion[] } | undefined;
  patches: readonly Patch[];
}>();
const emit = defineEmits<{ take: [chosen: readonly Suggestion[]]; close: [] }>();
const left = computed(() => untaken(props.found?.suggestions ?? [], props.patches));
</script>

<template>
  <section class="suggestions" aria-label="Suggested patches">
    <div class="head">
      <h2>Suggested</h2>
      <button v-if="left.length > 1" type="button" class="link" @click="emit('take', left)">
        Take all {{ left.length }}
      </button>
      <button type="button" class="link" @click="emit('close')">Put away</button>
    </div>
    <p v-if="!found?.ready" class="soft" role="status">The frame is being looked through …</p>
    <p v-else-if="!left.length" class="soft">Nothing more to suggest here.</p>
    <ul>
      <li v-for="s in left" :key="`${s.role} ${s.x} ${s.y}`">
        <span>
          <strong>{{ capital(s.role) }}</strong> <span class="soft">{{ s.reason }}</span>
          <span v-if="s.not_in?.length" class="soft">; not shown by {{ s.not_in.join(", ") }}</span>
        </span>
        <button
          type="button"
          class="link"
          :aria-label="`Take ${s.role} at ${s.x}, ${s.y}`"
          @click="emit('take', [s])"
        >
          Take
        </button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.suggestions {
  border-top: 2px solid var(--ink);
  padding: 8px 0 18px;
}
.head {
  display: flex;
  gap: 14px;
  align-items: baseline;
}
.head h2 {
  margin-right: auto;
}
ul {
  list-style: none;
  padding: 0;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 14px;
  padding: 4px 0;
  border-bottom: 1px solid var(--hair);
}
</style>
