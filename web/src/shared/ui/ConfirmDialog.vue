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
      <p class="pt-2">{{ text }}</p>
      <div class="dialog-acts">
        <v-btn color="error" @click="confirm">{{ action }}</v-btn>
        <v-btn variant="text" @click="open = false">Cancel</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>
