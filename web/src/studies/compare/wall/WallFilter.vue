<script setup lang="ts">
// Which rows the wall has, and how its crops are shown.
import { computed } from "vue";

import { useStudyContext } from "@/studies/shared/useStudyContext";

const { study } = useStudyContext();
const frame = defineModel<string>("frame", { required: true });
const role = defineModel<string>("role", { required: true });
const match = defineModel<string>("match", { required: true });
const roles = computed(() => [...new Set(study.value.patches.map((p) => p.role))]);
const frames = computed(() => [
  { value: "", title: `all ${study.value.frames.length}` },
  ...study.value.frames.map((f) => ({ value: String(f.id), title: f.name })),
]);
const kinds = computed(() => [
  { value: "", title: "all" },
  ...roles.value.map((r) => ({ value: r, title: r })),
]);
const set = computed(() => [frame.value, role.value, match.value].filter(Boolean).length);
const SHOWN = [
  { value: "", title: "as made" },
  { value: "exposure", title: "exposure matched" },
  { value: "exposure and tone", title: "exposure and tone matched" },
];
</script>

<template>
  <v-menu :close-on-content-click="false" location="bottom end">
    <template #activator="{ props }">
      <v-btn v-bind="props" height="30">Filter{{ set ? ` ${set}` : "" }}</v-btn>
    </template>
    <v-card class="stack filter">
      <v-select v-model="frame" label="Frames" :items="frames" />
      <v-select v-model="role" label="Patch types" :items="kinds" />
      <v-select
        v-model="match"
        label="Brightness of crops"
        :items="SHOWN"
        hint="For looking only; readings stay as they are"
        persistent-hint
      />
      <TextAction
        v-if="set"
        @click="
          frame = '';
          role = '';
          match = '';
        "
        >Show all as made</TextAction
      >
    </v-card>
  </v-menu>
</template>

<style scoped>
.filter {
  width: 300px;
}
</style>
