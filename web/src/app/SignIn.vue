<script setup lang="ts">
import { useQueryClient } from "@tanstack/vue-query";
import { ref } from "vue";

import { api, ask } from "@/api/client";
import DoorForm from "@/shared/ui/DoorForm.vue";

const client = useQueryClient();
const username = ref("");
const password = ref("");
const problem = ref("");
const busy = ref(false);

async function signIn(): Promise<void> {
  busy.value = true;
  problem.value = "";
  try {
    const body = { username: username.value, password: password.value };
    client.setQueryData(["session"], await ask(api.POST("/api/session", { body })));
  } catch (error) {
    problem.value = error instanceof Error ? error.message : String(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <main id="main">
    <DoorForm title="Glenhail" @submit="signIn">
      <p>
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
      <p class="soft">
        <router-link to="/credits">Credits</router-link> of the sample pictures and the lettering
      </p>
    </DoorForm>
  </main>
</template>
