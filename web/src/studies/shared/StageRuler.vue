<script setup lang="ts">
// The five stages as marks on a ruler, each saying what is missing.
import type { Stage } from "./useStages";

defineProps<{ stages: Stage[]; current: string }>();
</script>

<template>
  <nav
    style="--columns: repeat(5, 1fr)"
    class="ruler in-grid rule-below columns"
    aria-label="Stages of the study"
  >
    <router-link
      v-for="stage in stages"
      :key="stage.key"
      :to="stage.to"
      class="stage plain-link"
      :class="{ current: stage.key === current }"
      :aria-current="stage.key === current ? 'step' : undefined"
    >
      <span class="name">{{ stage.name }}</span>
      <span
        class="state overflow-hidden small text-truncate"
        :class="stage.unfair ? 'rowan' : 'soft'"
        >{{ stage.state }}</span
      >
    </router-link>
  </nav>
</template>

<style scoped>
.ruler {
  height: var(--ruler);
  margin: 0 var(--margin);
}
.stage {
  display: flex;
  align-items: baseline;
  gap: 8px;
  min-width: 0;
  padding: 7px 8px 0 10px;
  border-left: 1px solid var(--ink);
  white-space: nowrap;
}
.current {
  box-shadow: inset 0 4px 0 var(--ink);
}
.name {
  font: 650 15px var(--display);
}
.current .name {
  color: var(--spruce);
}
@media (max-width: 900px) {
  .state {
    display: none;
  }
}
@media (max-width: 480px) {
  .stage {
    padding: 8px 4px 0 6px;
  }
  .name {
    font-size: 13px;
  }
}
</style>
