<script setup lang="ts" generic="T extends string | number">
// One of a few, all in sight.
interface Item {
  value: T;
  title: string;
}

defineProps<{ label: string; items: readonly Item[]; hideLabel?: boolean }>();
const chosen = defineModel<T>({ required: true });
</script>

<template>
  <span class="choice-with-label">
    <span v-if="!hideLabel" aria-hidden="true" class="soft">{{ label }}</span>
    <v-btn-toggle v-model="chosen" role="group" :aria-label="label">
      <v-btn
        v-for="item in items"
        :key="item.value"
        :value="item.value"
        :aria-pressed="item.value === chosen"
        >{{ item.title }}</v-btn
      >
    </v-btn-toggle>
  </span>
</template>
