<script setup lang="ts">
import type { Sending } from "../composables/useUploads";

defineProps<{ sending: Sending[] }>();
const emit = defineEmits<{ drop: [key: number] }>();
</script>

<template>
  <ul v-if="sending.length" class="sending" aria-live="polite">
    <li v-for="item in sending" :key="item.key">
      <template v-if="item.problem">
        <span class="rowan">{{ item.problem }}</span>
        <button type="button" class="link" @click="emit('drop', item.key)">Dismiss</button>
      </template>
      <template v-else>
        <span>{{ item.name }}</span>
        <span class="mono soft">{{ Math.round(100 * item.share) }} % sent</span>
        <v-progress-linear :model-value="100 * item.share" :aria-label="`${item.name}, share sent`" />
      </template>
    </li>
  </ul>
</template>

<style scoped>
.sending {
  list-style: none;
  padding: 0;
  margin: 10px 0;
}
li {
  display: flex;
  gap: 4px 14px;
  flex-wrap: wrap;
  padding: 6px 0;
  border-bottom: 1px solid var(--hair);
}
</style>
