<script setup lang="ts">
import { computed } from "vue";
import { useRoute } from "vue-router";

import { useSession } from "@/api/queries";
import SendingTray from "@/uploads/SendingTray.vue";
import TopBar from "./TopBar.vue";
import SignIn from "./SignIn.vue";
import { useAway } from "./useAway";
import { provideNotices } from "@/shared/lib/useNotices";
import { provideWork } from "@/queue/useWork";

const route = useRoute();
const { data: session, error } = useSession();
const signedIn = computed(() => session.value?.signed_in ?? false);
const notices = provideNotices();
const { away } = useAway();
provideWork(signedIn);
</script>

<template>
  <v-app>
    <a class="skip" href="#main">Skip to the content</a>
    <template v-if="session">
      <main v-if="!signedIn && route.meta.open" id="main" tabindex="-1">
        <p class="page back"><router-link to="/">Glenhail</router-link></p>
        <router-view />
      </main>
      <SignIn v-else-if="!signedIn" />
      <template v-else>
        <TopBar v-if="!route.meta.bare" :session="session" />
        <SendingTray v-show="!route.meta.bare" :can-edit="session.role !== 'viewer'" />
        <main id="main" tabindex="-1"><router-view :key="route.meta.own ? route.path : ''" /></main>
      </template>
    </template>
    <p v-else-if="error" class="page rowan">{{ error.message }}</p>
    <v-snackbar :model-value="away" :timeout="-1" color="secondary" location="top" role="status">
      The server does not answer for a moment. It is asked again until it does; nothing was lost.
    </v-snackbar>
    <v-snackbar
      v-model="notices.shown.value"
      :color="notices.bad.value ? 'error' : 'secondary'"
      :timeout="notices.bad.value ? 12000 : 4000"
      location="bottom left"
      role="status"
    >
      {{ notices.text.value }}
      <template #actions
        ><v-btn variant="text" color="surface" @click="notices.shown.value = false"
          >Close</v-btn
        ></template
      >
    </v-snackbar>
  </v-app>
</template>

<style scoped>
main:focus {
  outline: none;
}
.back {
  padding: 14px 28px 0;
  max-width: 900px;
}
.skip {
  position: absolute;
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
