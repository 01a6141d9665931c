<script setup lang="ts">
import { computed } from "vue";

import { api, ask } from "@/api/client";
import type { Session } from "@/api/queries";
import { useAct } from "@/shared/lib/useAct";
import { usePreference } from "@/shared/lib/usePreference";
import { useWork } from "@/queue/useWork";
import MarkLogo from "@/shared/ui/MarkLogo.vue";

defineProps<{ session: Session }>();
const work = useWork();
const { act } = useAct();
const surround = usePreference<"mid" | "light" | "dark">("surround", "mid");
const failed = computed(() => work.jobs.value.filter((j) => j.state === "failed").length);
const working = computed(() => {
  if (work.active.value)
    return `${work.active.value} job${work.active.value > 1 ? "s" : ""} at work`;
  return failed.value ? `Queue, ${failed.value} failed` : "Queue";
});

async function signOut(): Promise<void> {
  await act(() => ask(api.DELETE("/api/session")));
  window.location.assign("/");
}
</script>

<template>
  <header class="bar">
    <router-link to="/studies" class="name"><MarkLogo /> Glenhail</router-link>
    <nav aria-label="Main">
      <router-link to="/studies">Studies</router-link>
      <router-link to="/frames">Frames</router-link>
      <router-link to="/tools">Tools</router-link>
      <router-link to="/cameras">Cameras</router-link>
      <router-link to="/targets">Targets</router-link>
      <router-link to="/published">Reports</router-link>
    </nav>
    <div class="end">
      <router-link to="/queue" :class="{ rowan: failed && !work.active.value }">{{
        working
      }}</router-link>
      <label>
        <span class="visually-hidden">Surround of pictures</span>
        <select v-model="surround" class="quiet-select">
          <option value="light">Light surround</option>
          <option value="mid">Mid-grey surround</option>
          <option value="dark">Dark surround</option>
        </select>
      </label>
      <router-link v-if="session.role === 'owner'" to="/bench">Bench</router-link>
      <router-link to="/account">{{ session.user }}, {{ session.role }}</router-link>
      <button type="button" class="link" @click="signOut">Sign out</button>
    </div>
  </header>
</template>

<style scoped>
.bar {
  display: flex;
  align-items: center;
  gap: 8px 28px;
  flex-wrap: wrap;
  padding: 10px 28px;
  border-bottom: 1px solid var(--ink);
}
.name {
  display: inline-flex;
  gap: 12px;
  align-items: center;
  font: 650 20px var(--display);
  color: var(--ink);
  text-decoration: none;
}
nav {
  display: flex;
  gap: 20px;
}
nav a,
.end a {
  color: var(--ink);
  text-decoration: none;
  padding: 2px 0;
}
nav a.router-link-active {
  border-bottom: 2px solid var(--ink);
}
.end {
  margin-left: auto;
  display: flex;
  gap: 18px;
  align-items: center;
  color: var(--soft);
}
.end a {
  color: var(--soft);
}
.end a.rowan {
  color: var(--rowan);
}
</style>
