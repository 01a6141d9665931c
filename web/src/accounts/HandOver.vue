<script setup lang="ts">
// Something that is shown this once: a link or a token, to be copied and handed over.
import { ref, watch } from "vue";

const props = defineProps<{ title: string; text: string; words: string }>();
const open = defineModel<boolean>({ required: true });
const copied = ref(false);
watch(
  () => props.text,
  () => (copied.value = false),
);

async function copy(): Promise<void> {
  await navigator.clipboard.writeText(props.text);
  copied.value = true;
}
</script>

<template>
  <v-dialog v-model="open" max-width="620">
    <v-card>
      <h2>{{ title }}</h2>
      <p class="words">{{ words }}</p>
      <v-text-field
        :model-value="text"
        :label="title"
        readonly
        class="mono"
        @focus="($event.target as HTMLInputElement).select()"
      />
      <div class="d-flex ga-2 mt-4">
        <v-btn variant="flat" @click="copy">{{ copied ? "Copied" : "Copy" }}</v-btn>
        <v-btn variant="text" @click="open = false">Close</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.words {
  margin: 8px 0 16px;
}
</style>
