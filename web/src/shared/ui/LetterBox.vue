<script setup lang="ts">
import { colourOf } from "@/shared/lib/letters";

defineProps<{ letter: string }>();
</script>

<template>
  <span
    class="letter"
    :class="{ outlined: !colourOf(letter) }"
    :style="colourOf(letter) ? { background: colourOf(letter) } : {}"
    >{{ letter }}</span
  >
</template>

<style scoped>
.letter {
  display: inline-block;
  flex: none;
  width: 19px;
  height: 19px;
  color: #fff;
  text-align: center;
  font: 600 12.5px/19px var(--mono);
}
.outlined {
  color: var(--ink);
  box-shadow: inset 0 0 0 1.5px var(--ink);
}
</style>
