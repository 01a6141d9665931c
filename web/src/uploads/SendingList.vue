<script setup lang="ts">
// Files on their way, one a line: how far, or what is the matter.
import type { Sending } from "./store";
import { bytes } from "@/shared/lib/formats";

defineProps<{ sending: readonly Sending[] }>();
const emit = defineEmits<{ drop: [id: string] }>();

const TOLD = {
  waiting: "waits",
  sending: "",
  taking: "arrived, being checked",
  broken: "",
  astray: "",
  refused: "",
  known: "",
  done: "arrived",
};

function told(item: Sending): string {
  if (item.problem) return item.problem;
  return (
    TOLD[item.state] || `${Math.floor((100 * item.arrived) / item.size)} % of ${bytes(item.size)}`
  );
}
</script>

<template>
  <ul v-if="sending.length" class="bare">
    <li
      v-for="item in sending"
      :key="item.id"
      class="d-flex gr-1 gc-4 flex-wrap py-1 hair-below"
      :data-state="item.state"
    >
      <span v-if="!item.problem.startsWith(item.name)" class="mono name text-break">{{
        item.name
      }}</span>
      <span :class="item.state === 'refused' ? 'rowan' : 'soft'">{{ told(item) }}</span>
      <TextAction :aria-label="`Dismiss ${item.name}`" @click="emit('drop', item.id)">
        {{ ["refused", "known", "done"].includes(item.state) ? "Dismiss" : "Cancel" }}
      </TextAction>
    </li>
  </ul>
</template>
