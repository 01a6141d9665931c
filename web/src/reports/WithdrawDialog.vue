<script setup lang="ts">
import { ref, watch } from "vue";

const { number } = defineProps<{ number: number }>();
const open = defineModel<boolean>({ required: true });
const emit = defineEmits<{ withdraw: [reason: string] }>();
const reason = ref("");
watch(open, () => (reason.value = ""));
const stated = (text: string) => !!text.trim() || "State a reason; its readers see it";

function confirm(): void {
  if (!reason.value.trim()) return;
  open.value = false;
  emit("withdraw", reason.value.trim());
}
</script>

<template>
  <v-dialog v-model="open" max-width="520">
    <v-card>
      <v-form class="in-grid ga-4" @submit.prevent="confirm">
        <h2>Withdraw edition {{ number }}?</h2>
        <p>
          Its address then says that it was withdrawn, when and why, and offers nothing else. The
          files stay on the bench. This cannot be undone; a later edition can be published.
        </p>
        <v-textarea
          v-model="reason"
          label="Reason, for readers"
          rows="2"
          maxlength="400"
          :rules="[stated]"
        />
        <div class="dialog-acts">
          <v-btn type="submit" color="error" :disabled="!reason.trim()">Withdraw</v-btn>
          <v-btn variant="text" @click="open = false">Cancel</v-btn>
        </div>
      </v-form>
    </v-card>
  </v-dialog>
</template>
