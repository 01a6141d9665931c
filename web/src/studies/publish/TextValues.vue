<script setup lang="ts">
// The readings that a text asks for as they are now, and what it says otherwise.
import type { Shape } from "@/api/client";

defineProps<{ values: readonly Shape["TextValueOut"][] }>();
</script>

<template>
  <ul v-if="values.length" class="told small" aria-label="Readings of this text">
    <li v-for="(v, i) in values" :key="i">
      <template v-if="v.text"
        ><span class="soft">{{ v.asked }}:</span> <span class="mono">{{ v.text }}</span></template
      >
      <span v-if="v.problem || v.warning" class="rowan"> {{ v.problem || v.warning }}</span>
    </li>
  </ul>
</template>

<style scoped>
.told {
  list-style: none;
  padding: 4px 0 0;
}
</style>
