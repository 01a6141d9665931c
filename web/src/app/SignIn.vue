<script setup lang="ts">
// The door; or, where a session ended while somebody worked, the same over their page.
import { useQueryClient } from "@tanstack/vue-query";
import { ref } from "vue";

import { api, ask } from "@/api/client";
import { keys } from "@/api/keys";
import { usePageTitle } from "@/shared/lib/useTitle";
import DoorForm from "@/shared/ui/DoorForm.vue";

const props = defineProps<{ again?: boolean }>();
const emit = defineEmits<{ done: [] }>();
const client = useQueryClient();
const username = ref("");
const password = ref("");
const problem = ref("");
const busy = ref(false);
if (!props.again) usePageTitle("Sign in");

async function signIn(): Promise<void> {
  busy.value = true;
  problem.value = "";
  try {
    const body = { username: username.value, password: password.value };
    client.setQueryData(keys.session, await ask(api.POST("/api/session", { body })));
    emit("done");
  } catch (error) {
    problem.value = error instanceof Error ? error.message : String(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <component :is="again ? 'div' : 'main'" :id="again ? undefined : 'main'">
    <DoorForm :title="again ? 'Sign in again' : 'Glenhail'" :within="again" @submit="signIn">
      <p v-if="again">
        Your session has ended. Sign in and go on; what you typed is still on the page.
      </p>
      <p v-else>
        A measuring bench and a small press: line up what tools made of a picture, measure it, judge
        it, publish it.
      </p>
      <v-text-field v-model="username" label="Name" autocomplete="username" autofocus required />
      <v-text-field
        v-model="password"
        label="Password"
        type="password"
        autocomplete="current-password"
        required
      />
      <p v-if="problem" class="rowan" role="alert">{{ problem }}</p>
      <v-btn type="submit" variant="flat" :loading="busy">Sign in</v-btn>
      <p v-if="!again" class="soft">
        <router-link to="/credits">Credits</router-link> of the sample pictures and the lettering
      </p>
    </DoorForm>
  </component>
</template>
