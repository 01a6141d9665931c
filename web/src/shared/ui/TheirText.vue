<script setup lang="ts">
// What somebody else saved while one's own text was being written, and what to do about it.
defineProps<{ lines: { label: string; text: string }[] }>();
const emit = defineEmits<{ take: []; keep: [] }>();
</script>

<template>
  <section class="theirs py-2 px-4 my-2" role="alert" aria-label="Changed by somebody else">
    <p class="rowan">Somebody else saved this while you were writing. Theirs reads:</p>
    <dl>
      <template v-for="line in lines" :key="line.label">
        <dt class="soft">{{ line.label }}</dt>
        <dd class="text-pre-wrap">{{ line.text || "nothing" }}</dd>
      </template>
    </dl>
    <p class="d-flex ga-2 pt-2">
      <v-btn size="small" @click="emit('keep')">Save mine instead</v-btn>
      <v-btn size="small" @click="emit('take')">Take theirs</v-btn>
    </p>
  </section>
</template>

<style scoped>
.theirs {
  border-left: 3px solid var(--rowan);
}
</style>
