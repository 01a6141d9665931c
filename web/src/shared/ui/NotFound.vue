<script setup lang="ts">
import { usePageTitle } from "@/shared/lib/useTitle";

const props = withDefaults(defineProps<{ what?: string; problem?: string; back?: string }>(), {
  what: "page",
  problem: "The address may be old or mistyped, or it was removed.",
  back: "/studies",
});
usePageTitle(() => `No such ${props.what}`);
</script>

<template>
  <div class="page">
    <v-empty-state :title="`There is no such ${what}`" :text="problem">
      <template #actions>
        <v-btn :to="back">{{ back === "/studies" ? "All studies" : "Go back" }}</v-btn>
      </template>
    </v-empty-state>
  </div>
</template>
