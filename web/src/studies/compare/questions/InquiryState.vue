<script setup lang="ts">
// How current an answer is, and asking again.
import type { Shape } from "@/api/client";
import { day } from "@/shared/lib/formats";

defineProps<{
  page: Pick<Shape["VisibilityOut"], "state" | "problem" | "taken">;
  found: boolean;
  busy: boolean;
  canEdit: boolean;
  /** What is being done, after "is being". */
  doing: string;
}>();
const emit = defineEmits<{ ask: [] }>();
</script>

<template>
  <p v-if="page.state === 'failed'" class="rowan py-2" role="alert">
    {{ page.problem }}
    <template v-if="found">What stands below is of before.</template>
    <v-btn v-if="canEdit" class="ml-2" size="small" :loading="busy" @click="emit('ask')"
      >Retry</v-btn
    >
  </p>
  <p v-else-if="page.state === 'waiting'" class="soft py-2" role="status">
    {{ doing }}<template v-if="found">; what stands below is of before</template>.
  </p>
  <p v-else-if="page.state === 'old'" class="soft py-2">
    Something changed since {{ page.taken ? day(page.taken) : "" }}: what stands below is of before.
    <v-btn v-if="canEdit" class="ml-2" size="small" :loading="busy" @click="emit('ask')"
      >Ask again</v-btn
    >
  </p>
</template>
