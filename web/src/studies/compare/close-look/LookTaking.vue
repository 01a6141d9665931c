<script setup lang="ts">
import type { Taking } from "./useTaking";

defineProps<{ taking: Taking; canEdit: boolean }>();
</script>

<template>
  <v-menu>
    <template #activator="{ props: opens }">
      <v-btn height="30" v-bind="opens">Take</v-btn>
    </template>
    <v-list>
      <v-list-item v-if="canEdit" title="Into the report" @click="taking.intoReport()" />
      <v-list-item title="Copy link" @click="taking.copyLink()" />
      <v-list-item title="Save as picture" @click="taking.savePicture()" />
      <v-list-item title="Copy as picture" @click="taking.copyPicture()" />
      <v-list-item title="Full screen" @click="taking.wholeScreen()" />
    </v-list>
  </v-menu>
</template>
