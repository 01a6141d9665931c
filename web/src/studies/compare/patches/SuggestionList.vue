<script setup lang="ts">
// Patches that a frame suggests, each with the reason, to be taken one by one or all.
import { computed } from "vue";

import type { Patch, Suggestion } from "@/api/types";
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
  <section class="suggestions pb-4" aria-label="Suggested patches">
    <div class="row">
      <h2>Suggested</h2>
      <TextAction v-if="left.length > 1" @click="emit('take', left)">
        Add all {{ left.length }}
      </TextAction>
      <TextAction @click="emit('close')">Dismiss</TextAction>
    </div>
    <p v-if="!found?.ready" class="soft" role="status">Looking for patches …</p>
    <p v-else-if="!left.length" class="soft">Nothing more to suggest here.</p>
    <ul class="bare">
      <li
        v-for="s in left"
        :key="`${s.role} ${s.x} ${s.y}`"
        class="d-flex justify-space-between ga-4 py-1 hair-below"
      >
        <span>
          <strong>{{ capital(s.role) }}</strong> <span class="soft">{{ s.reason }}</span>
          <span v-if="s.not_in?.length" class="soft">; not shown by {{ s.not_in.join(", ") }}</span>
        </span>
        <TextAction :aria-label="`Add ${s.role} at ${s.x}, ${s.y}`" @click="emit('take', [s])">
          Add
        </TextAction>
      </li>
    </ul>
  </section>
</template>
