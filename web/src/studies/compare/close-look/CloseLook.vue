<script setup lang="ts">
import { computed } from "vue";

import type { Study } from "@/api/types";
import { usePageTitle } from "@/shared/lib/useTitle";
import { useStudy } from "@/studies/shared/queries";
import { provideStudy } from "@/studies/shared/useStudyContext";
import LookTable from "./LookTable.vue";

const props = defineProps<{ id: number }>();
const { data, error } = useStudy(() => props.id);
usePageTitle(() => `Close look, ${data.value?.question ?? ""}`);
provideStudy(computed(() => data.value as Study));
</script>

<template>
  <p v-if="error && !data" class="page rowan">{{ error.message }}</p>
  <v-empty-state
    v-else-if="data && !data.frames.some((f) => f.picture.state === 'ready')"
    class="page"
    title="Nothing to look at yet"
    text="The close look shows a study’s frames and what was made of them."
  >
    <template #actions>
      <v-btn :to="`/studies/${id}/set-up`">Add frames</v-btn>
    </template>
  </v-empty-state>
  <LookTable v-else-if="data" />
</template>
