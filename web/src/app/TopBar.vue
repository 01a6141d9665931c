<script setup lang="ts">
// Where one is, where one can go, and what runs. A page puts its own title into #bar-title.
import { mdiHelpCircleOutline, mdiMenu } from "@mdi/js";
import { computed } from "vue";
import { useDisplay } from "vuetify";

import type { Session } from "@/api/types";
import { useWork } from "@/queue/useWork";
import { useHelp } from "@/help/useHelp";
import MarkLogo from "@/shared/ui/MarkLogo.vue";
import { lasting } from "@/shared/lib/words";

import UserMenu from "./UserMenu.vue";

defineProps<{ session: Session }>();
const work = useWork();
const help = useHelp();
const { width } = useDisplay();
const narrow = computed(() => width.value < 1000);
const PAGES = [
  ["/studies", "Studies"],
  ["/frames", "Frames"],
  ["/tools", "Tools"],
  ["/cameras", "Cameras"],
  ["/targets", "Targets"],
  ["/published", "Reports"],
] as const;
const failed = computed(() => work.jobs.value.filter((j) => j.state === "failed").length);
const working = computed(() => {
  const n = work.active.value;
  if (n) return `${n} job${n > 1 ? "s" : ""}${left.value}`;
  return failed.value ? `${failed.value} failed` : "Queue";
});
const left = computed(() => {
  const seconds = work.secondsLeft.value;
  return seconds ? `, ${lasting(seconds)}` : "";
});
</script>

<template>
  <header class="bar d-flex align-center ga-4">
    <router-link
      to="/studies"
      class="name plain-link d-inline-flex flex-0-0 ga-2 align-center"
      aria-label="Glenhail"
      ><MarkLogo /><span class="word">Glenhail</span></router-link
    >
    <div
      id="bar-title"
      class="heading flex-1-1 shrinks overflow-hidden text-no-wrap text-truncate"
    />
    <nav v-if="!narrow" class="d-flex flex-0-0 ga-4" aria-label="Main">
      <router-link v-for="[to, title] in PAGES" :key="to" :to="to" class="plain-link">{{
        title
      }}</router-link>
    </nav>
    <v-menu v-else>
      <template #activator="{ props }">
        <IconAction v-bind="props" aria-label="Pages" :icon="mdiMenu" />
      </template>
      <v-list nav aria-label="Main">
        <v-list-item v-for="[to, title] in PAGES" :key="to" :to="to" :title="title" />
      </v-list>
    </v-menu>
    <router-link
      to="/queue"
      class="plain-link mono queue flex-0-0"
      :class="failed && !work.active.value ? 'rowan' : 'soft'"
      >{{ working }}</router-link
    >
    <IconAction aria-label="Help, ?" :icon="mdiHelpCircleOutline" @click="help.open.value = true" />
    <UserMenu :session="session" />
  </header>
</template>

<style scoped>
.bar {
  height: var(--bar);
  padding: 0 var(--margin);
  border-bottom: 1px solid var(--ink);
}
.name {
  font: 650 18px var(--display);
}
/* A study's question takes the place of the name. */
.name:has(+ .heading:not(:empty)) .word {
  display: none;
}
nav a.router-link-active {
  box-shadow: 0 2px var(--ink);
}
</style>
