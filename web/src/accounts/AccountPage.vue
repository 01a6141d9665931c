<script setup lang="ts">
// One's own password, sessions, and tokens for scripts.
import { useQuery } from "@tanstack/vue-query";
import { computed, ref } from "vue";

import { useSession } from "@/api/session";
import { day, moment } from "@/shared/lib/formats";
import { usePageTitle } from "@/shared/lib/useTitle";
import HandOver from "./HandOver.vue";
import { useAddToken, useChangePassword, useEndSession, useRemoveToken } from "./mutations";
import { type Role, ROLES, sessions, tokens } from "./queries";

const { data: session } = useSession();
usePageTitle("Account");
const { data: open } = useQuery(sessions);
const { data: mine } = useQuery(tokens);
const changePassword = useChangePassword();
const endSession = useEndSession();
const addToken = useAddToken();
const removeToken = useRemoveToken();
const old = ref("");
const fresh = ref("");
const problem = ref("");
const name = ref("");
const scope = ref<Role>("viewer");
const days = ref<number | null>(90);
const token = ref("");
const shown = ref(false);
const scopes = computed(() => ROLES.slice(0, ROLES.indexOf(session.value?.role as Role) + 1));
const LASTS = [
  { title: "30 days", value: 30 },
  { title: "90 days", value: 90 },
  { title: "a year", value: 365 },
  { title: "until removed", value: null },
];

async function savePassword(): Promise<void> {
  problem.value = "";
  try {
    await changePassword.mutateAsync({ old: old.value, new: fresh.value });
    old.value = fresh.value = "";
  } catch (error) {
    problem.value = error instanceof Error ? error.message : String(error);
  }
}

async function makeToken(): Promise<void> {
  const expires = days.value ? new Date(Date.now() + 86_400_000 * days.value).toISOString() : null;
  const body = { name: name.value.trim(), scope: scope.value, expires };
  const made = await addToken.mutateAsync(body).catch(() => undefined);
  if (!made) return;
  name.value = "";
  token.value = made.token;
  shown.value = true;
}
</script>

<template>
  <div class="page">
    <div class="page-top">
      <div>
        <h1>Account</h1>
        <p class="soft">Signed in as {{ session?.user }}, {{ session?.role }}.</p>
      </div>
    </div>
    <section class="block">
      <h2>Password</h2>
      <v-form class="line d-flex ga-4 align-start mt-3 readable" @submit.prevent="savePassword">
        <v-text-field
          v-model="old"
          label="Current password"
          type="password"
          autocomplete="current-password"
          required
        />
        <v-text-field
          v-model="fresh"
          label="New password"
          type="password"
          autocomplete="new-password"
          hint="Ten characters or more"
          persistent-hint
          :error-messages="problem"
          required
        />
        <v-btn
          type="submit"
          variant="flat"
          :disabled="!old || !fresh"
          :loading="changePassword.isPending.value"
          >Change password</v-btn
        >
      </v-form>
    </section>
    <section class="block">
      <h2>Sessions</h2>
      <v-table class="mt-2 readable" aria-label="Sessions">
        <thead>
          <tr>
            <th scope="col">Session</th>
            <th scope="col">Ends</th>
            <th scope="col"><span class="visually-hidden">Actions</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(s, i) in open" :key="s.id">
            <td>{{ s.this ? "This browser" : `Another browser (${i + 1})` }}</td>
            <td>{{ moment(s.expires) }}</td>
            <td class="text-end">
              <v-btn v-if="!s.this" variant="text" size="small" @click="endSession.mutate(s.id)"
                >End<span class="visually-hidden"> session {{ i + 1 }}</span></v-btn
              >
            </td>
          </tr>
        </tbody>
      </v-table>
    </section>
    <section class="block">
      <h2>Tokens</h2>
      <p class="soft">
        A script signs in with a token: <code class="mono">Authorization: Bearer …</code>. Its scope
        is the most that it may do.
      </p>
      <v-table v-if="mine?.length" class="mt-2 readable" aria-label="Tokens">
        <thead>
          <tr>
            <th scope="col">Name</th>
            <th scope="col">Scope</th>
            <th scope="col">Last used</th>
            <th scope="col">Ends</th>
            <th scope="col"><span class="visually-hidden">Actions</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="t in mine" :key="t.id">
            <td>{{ t.name }}</td>
            <td>{{ t.scope }}</td>
            <td>{{ t.used ? moment(t.used) : "never" }}</td>
            <td>{{ t.expires ? day(t.expires) : "when removed" }}</td>
            <td class="text-end">
              <v-btn variant="text" size="small" @click="removeToken.mutate(t.id)"
                >Remove<span class="visually-hidden"> token {{ t.name }}</span></v-btn
              >
            </td>
          </tr>
        </tbody>
      </v-table>
      <v-form class="line d-flex ga-4 align-start mt-3 readable" @submit.prevent="makeToken">
        <v-text-field v-model="name" label="Name of the token" maxlength="60" required />
        <v-select v-model="scope" :items="scopes" label="Scope" class="narrow" />
        <v-select v-model="days" :items="LASTS" label="Lasts" class="narrow" />
        <v-btn
          type="submit"
          variant="flat"
          :disabled="!name.trim()"
          :loading="addToken.isPending.value"
          >Add token</v-btn
        >
      </v-form>
    </section>
    <HandOver
      v-model="shown"
      title="Token"
      :text="token"
      words="It is shown this once. Keep it where your scripts find it and nobody else does."
    />
  </div>
</template>

<style scoped>
.line .v-btn {
  margin-top: 22px;
  height: 40px;
}
.narrow {
  max-width: 170px;
}
</style>
