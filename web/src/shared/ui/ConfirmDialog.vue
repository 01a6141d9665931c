<script setup lang="ts">
defineProps<{ title: string; text: string; action: string }>();
const open = defineModel<boolean>({ required: true });
const emit = defineEmits<{ confirmed: [] }>();

function confirm(): void {
  open.value = false;
  emit("confirmed");
}
</script>

<template>
  <v-dialog v-model="open" max-width="460">
    <v-card>
      <h2>{{ title }}</h2>
      <p class="text">{{ text }}</p>
      <div class="acts">
        <v-btn color="error" @click="confirm">{{ action }}</v-btn>
        <v-btn variant="text" @click="open = false">Keep it</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.text {
  margin: 10px 0 18px;
}
.acts {
  display: flex;
  gap: 10px;
}
</style>
