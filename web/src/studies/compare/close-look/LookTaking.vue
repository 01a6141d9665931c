<script setup lang="ts">
// Taking the view along: its address, its picture, the whole screen.
import { useNotices } from "@/shared/lib/useNotices";
import { save } from "@/shared/lib/saving";

import { type ShownPane, viewPicture } from "./viewPicture";

const props = defineProps<{ title: string; shown: () => ShownPane[] }>();
const notices = useNotices();

async function copyLink(): Promise<void> {
  await navigator.clipboard.writeText(window.location.href);
  notices.tell("Link copied.");
}

async function picture(): Promise<void> {
  save(await viewPicture(props.title, props.shown()), `${props.title}.png`);
}

async function copyPicture(): Promise<void> {
  const made = viewPicture(props.title, props.shown());
  await navigator.clipboard.write([new ClipboardItem({ "image/png": made })]);
  notices.tell("Picture copied.");
}

async function wholeScreen(): Promise<void> {
  if (document.fullscreenElement) await document.exitFullscreen();
  else await document.documentElement.requestFullscreen();
}
</script>

<template>
  <v-menu>
    <template #activator="{ props: opens }">
      <v-btn height="30" v-bind="opens">Take</v-btn>
    </template>
    <v-list>
      <v-list-item title="Copy link" @click="copyLink" />
      <v-list-item title="Save as picture" @click="picture" />
      <v-list-item title="Copy as picture" @click="copyPicture" />
      <v-list-item title="Full screen" @click="wholeScreen" />
    </v-list>
  </v-menu>
</template>
