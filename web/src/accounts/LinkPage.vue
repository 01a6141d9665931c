<script setup lang="ts">
// What a link leads to that an owner handed over: joining a bench, or a new password. The token
// stands behind #, so that no server on the way writes it down.
import { useQueryClient } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { useRouter } from "vue-router";

import { api, ask } from "@/api/client";
import { useSession } from "@/api/session";
import { useNotices } from "@/shared/lib/useNotices";
import DoorForm from "@/shared/ui/DoorForm.vue";

const props = defineProps<{ joins: boolean }>();
const router = useRouter();
const client = useQueryClient();
const notices = useNotices();
const { data: session } = useSession();
const token = window.location.hash.slice(1);
const username = ref("");
const password = ref("");
const problem = ref(
  token ? "" : "This link is not complete. Copy the whole of it, up to its last character.",
);
const busy = ref(false);
const title = computed(() => (props.joins ? "Join the bench" : "Set a new password"));

async function go(): Promise<void> {
  busy.value = true;
  problem.value = "";
  try {
    if (props.joins)
      await ask(
        api.POST("/api/join", {
          body: { token, username: username.value, password: password.value },
        }),
      );
    else await ask(api.POST("/api/new-password", { body: { token, password: password.value } }));
    if (!props.joins) notices.tell("Password set. Sign in with it.");
    await router.replace("/studies");
    await client.invalidateQueries({ queryKey: ["session"] });
  } catch (error) {
    problem.value = error instanceof Error ? error.message : String(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <DoorForm :title="title" @submit="go">
    <p v-if="session?.signed_in" class="soft">
      You are signed in as {{ session.user }}. Sign out first to use this link for somebody else.
    </p>
    <v-text-field
      v-if="joins"
      v-model="username"
      label="Name"
      autocomplete="username"
      hint="Letters, digits and @ . + - _"
      persistent-hint
      required
    />
    <v-text-field
      v-model="password"
      label="New password"
      type="password"
      autocomplete="new-password"
      hint="Ten characters or more"
      persistent-hint
      required
    />
    <p v-if="problem" class="rowan" role="alert">{{ problem }}</p>
    <v-btn type="submit" variant="flat" :loading="busy" :disabled="!token || !password">{{
      title
    }}</v-btn>
  </DoorForm>
</template>
