<script setup lang="ts">
import { computed } from "vue";

import { type Study, useStudy } from "@/api/queries";
import { provideStudy } from "@/studies/shared/useStudyContext";
import LookTable from "./LookTable.vue";

const props = defineProps<{ id: number }>();
const { data, error } = useStudy(() => props.id);
provideStudy(computed(() => data.value as Study));
</script>

<template>
  <p v-if="error && !data" class="page rowan">{{ error.message }}</p>
  <div v-else-if="data && !data.frames.some((f) => f.picture.state === 'ready')" class="page">
    <h1>Nothing to look at yet</h1>
    <p><router-link :to="`/studies/${id}/set-up`">Add a frame</router-link> first.</p>
  </div>
  <LookTable v-else-if="data" />
</template>
