<script setup lang="ts">
// The five stages as marks on a ruler, each saying what is missing.
import type { Stage } from "./useStages";

defineProps<{ stages: Stage[]; current: string }>();
</script>

<template>
  <nav class="ruler" aria-label="Stages of the study">
    <router-link
      v-for="stage in stages"
      :key="stage.key"
      :to="stage.to"
      class="stage"
      :class="{ current: stage.key === current }"
      :aria-current="stage.key === current ? 'step' : undefined"
    >
      <span class="name">{{ stage.name }}</span>
      <span class="state" :class="{ rowan: stage.open }">{{ stage.state }}</span>
    </router-link>
  </nav>
</template>

<style scoped>
.ruler {
  display: grid;
  grid-template-columns: repeat(5, 1fr);
  border-top: 2px solid var(--ink);
  background: repeating-linear-gradient(90deg, var(--rule) 0 1px, transparent 1px 2%) 0 0 / 100% 6px
    no-repeat;
  margin-top: 18px;
}
.stage {
  display: block;
  border-left: 2px solid;
  border-image: linear-gradient(var(--ink) 12px, transparent 12px) 1;
  padding: 9px 8px 8px 9px;
  color: var(--ink);
  text-decoration: none;
}
.current {
  box-shadow: inset 0 4px 0 var(--ink);
}
.name {
  display: block;
  font: 650 15px var(--display);
}
.current .name {
  color: var(--spruce);
}
.stage:hover .name {
  text-decoration: underline;
}
.state {
  font-size: 12.5px;
  color: var(--soft);
}
.state.rowan {
  color: var(--rowan);
}
</style>
