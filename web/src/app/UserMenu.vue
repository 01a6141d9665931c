<script setup lang="ts">
// What is one's own: surround of pictures, paper or dark, account, and the way out.
import { watchEffect } from "vue";
import { useTheme } from "vuetify";

import { useSignOut } from "@/accounts/mutations";
import type { Session } from "@/api/types";
import { usePreference } from "@/shared/lib/usePreference";
import ChoiceBar from "@/shared/ui/ChoiceBar.vue";

defineProps<{ session: Session }>();
const theme = useTheme();
const surround = usePreference<"mid" | "light" | "dark">("surround", "mid");
const look = usePreference<"system" | "light" | "dark">("appearance", "system");
const signOut = useSignOut();
watchEffect(() => (document.documentElement.dataset.surround = surround.value));
watchEffect(() => theme.change(look.value));
</script>

<template>
  <v-menu :close-on-content-click="false">
    <template #activator="{ props }">
      <TextAction v-bind="props" class="user flex-0-0">{{ session.user }}</TextAction>
    </template>
    <v-card class="stack">
      <p>
        {{ session.user }} <span class="soft">{{ session.role }}</span>
      </p>
      <ChoiceBar
        v-model="surround"
        label="Picture surround"
        :items="[
          { value: 'light', title: 'Light' },
          { value: 'mid', title: 'Mid grey' },
          { value: 'dark', title: 'Dark' },
        ]"
      />
      <ChoiceBar
        v-model="look"
        label="Appearance"
        :items="[
          { value: 'system', title: 'System' },
          { value: 'light', title: 'Light' },
          { value: 'dark', title: 'Dark' },
        ]"
      />
      <nav class="stack" aria-label="Yours">
        <router-link to="/account">Account</router-link>
        <router-link v-if="session.role === 'owner'" to="/bench">Bench</router-link>
        <router-link to="/guide">User guide</router-link>
        <TextAction @click="signOut.mutate()">Sign out</TextAction>
      </nav>
    </v-card>
  </v-menu>
</template>
