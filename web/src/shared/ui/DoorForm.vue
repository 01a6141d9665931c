<script setup lang="ts">
// A page that is one narrow form: signing in, joining, a new password.
import MarkLogo from "./MarkLogo.vue";

defineProps<{ title: string; within?: boolean }>();
const emit = defineEmits<{ submit: [] }>();
</script>

<template>
  <div :class="{ 'in-grid place-center': !within }" :style="within ? '' : 'min-height: 92vh'">
    <v-form
      style="max-width: 360px"
      class="block in-grid ga-4 pt-5 w-100"
      @submit.prevent="emit('submit')"
    >
      <h1 class="d-flex ga-4 align-center"><MarkLogo /> {{ title }}</h1>
      <slot />
    </v-form>
  </div>
</template>
