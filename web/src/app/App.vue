<script setup lang="ts">
import { computed, watch } from "vue";
import { useRoute } from "vue-router";

import { useSession } from "@/api/session";
import HelpDialog from "@/help/HelpDialog.vue";
import { provideHelp } from "@/help/useHelp";
import { provideWork } from "@/queue/useWork";
import { provideNotices } from "@/shared/lib/useNotices";
import SendingTray from "@/uploads/SendingTray.vue";

import NoticeQueue from "./NoticeQueue.vue";
import SignIn from "./SignIn.vue";
import TopBar from "./TopBar.vue";
import { useAway } from "./useAway";
import { useExpiry } from "./useExpiry";

const route = useRoute();
const { data: session, error } = useSession();
const signedIn = computed(() => session.value?.signed_in ?? false);
provideNotices();
provideHelp();
const { away } = useAway();
const { expired, goOn } = useExpiry(signedIn);
provideWork(computed(() => signedIn.value && !expired.value));
// Whoever is signed in stays on the page they came for.
watch(signedIn, (now) => now && (expired.value = false));
</script>

<template>
  <v-app>
    <a class="skip position-absolute" href="#main">Skip to the content</a>
    <template v-if="session">
      <main v-if="!signedIn && route.meta.open" id="main" tabindex="-1">
        <p v-if="!route.meta.bare" class="page back pt-4 readable">
          <router-link to="/">Glenhail</router-link>
        </p>
        <router-view :key="route.meta.own ? route.path : ''" />
      </main>
      <SignIn v-else-if="!signedIn" />
      <template v-else>
        <TopBar v-if="!route.meta.bare" :session="session" />
        <SendingTray v-show="!route.meta.bare" :can-edit="session.role !== 'viewer'" />
        <main id="main" tabindex="-1"><router-view :key="route.meta.own ? route.path : ''" /></main>
        <HelpDialog />
        <v-dialog :model-value="expired" persistent max-width="460" aria-label="Sign in again">
          <v-card><SignIn again @done="goOn" /></v-card>
        </v-dialog>
      </template>
    </template>
    <p v-else-if="error" class="page rowan">{{ error.message }}</p>
    <v-snackbar :model-value="away" :timeout="-1" color="secondary" location="top" role="status">
      The server does not answer for a moment. It is asked again until it does; nothing was lost.
    </v-snackbar>
    <NoticeQueue />
  </v-app>
</template>

<style scoped>
main:focus {
  outline: none;
}
.skip {
  left: -9999px;
}
.skip:focus {
  left: 12px;
  top: 8px;
  background: var(--sheet);
  padding: 6px 10px;
  z-index: 10;
}
</style>
