<script setup lang="ts">
// A page that is one narrow form: signing in, joining, a new password.
import MarkLogo from "./MarkLogo.vue";

defineProps<{ title: string; within?: boolean }>();
const emit = defineEmits<{ submit: [] }>();
</script>

<template>
  <div :class="{ door: !within }">
    <v-form @submit.prevent="emit('submit')">
      <h1 class="d-flex ga-4 align-center"><MarkLogo /> {{ title }}</h1>
      <slot />
    </v-form>
  </div>
</template>

<style scoped>
.door {
  min-height: 92vh;
  display: grid;
  place-content: center;
}
form {
  max-width: 360px;
  width: 100%;
  display: grid;
  gap: 16px;
  border-top: 2px solid var(--ink);
  padding-top: 22px;
}
</style>
