<script setup lang="ts">
// Programs elsewhere that are told when something happened here.
import { useQuery } from "@tanstack/vue-query";
import { ref } from "vue";

import ConfirmDialog from "@/shared/ui/ConfirmDialog.vue";
import HandOver from "./HandOver.vue";
import { EVENTS, type Happening, type Hook, lastText } from "./hooks";
import { useAddHook, useRemoveHook, useTryHook } from "./mutations";
import { hooks } from "./queries";

const { data, isPending, error } = useQuery(hooks);
const add = useAddHook();
const remove = useRemoveHook();
const attempt = useTryHook();
const address = ref("");
const events = ref<Happening[]>(["readings ready"]);
const secret = ref("");
const shown = ref(false);
const leaving = ref<Hook>();
const asked = ref(false);
const choices = EVENTS.map(({ value, title, when }) => ({
  value,
  title,
  props: { subtitle: when },
}));

async function enter(): Promise<void> {
  const body = { address: address.value.trim(), events: events.value };
  const made = await add.mutateAsync(body).catch(() => undefined);
  if (!made) return;
  address.value = "";
  secret.value = made.secret;
  shown.value = true;
}

function ask(hook: Hook): void {
  leaving.value = hook;
  asked.value = true;
}
</script>

<template>
  <v-skeleton-loader v-if="isPending" type="table-tbody" />
  <v-alert v-else-if="error" type="error" :text="error.message" />
  <template v-else>
    <p class="soft readable">
      A build server or a chat can be told by itself: each event is sent there by POST, signed so
      that the program can tell it from anybody else’s.
    </p>
    <v-table v-if="data?.length" class="mt-3" aria-label="Programs">
      <thead>
        <tr>
          <th scope="col">Address</th>
          <th scope="col">Told of</th>
          <th scope="col">Last</th>
          <th scope="col"><span class="visually-hidden">Actions</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="hook in data" :key="hook.id">
          <td class="mono small address">{{ hook.address }}</td>
          <td>{{ hook.events.join(", ") }}</td>
          <td
            class="small"
            :class="{ rowan: hook.tellings[0]?.problem && !hook.tellings[0].arrived }"
          >
            {{ lastText(hook.tellings[0]) }}
          </td>
          <td class="text-end text-no-wrap">
            <v-btn variant="text" size="small" @click="attempt.mutate(hook.id)"
              >Try<span class="visually-hidden"> {{ hook.address }}</span></v-btn
            >
            <v-btn variant="text" size="small" @click="ask(hook)"
              >Remove<span class="visually-hidden"> {{ hook.address }}</span></v-btn
            >
          </td>
        </tr>
      </tbody>
    </v-table>
    <h2 class="next">Add a program</h2>
    <v-form class="line d-flex ga-4 align-start mt-2" @submit.prevent="enter">
      <v-text-field
        v-model="address"
        label="Address"
        placeholder="https://build.example.org/glenhail"
        maxlength="500"
        required
      />
      <v-select v-model="events" :items="choices" label="Told of" multiple class="events" />
      <v-btn
        type="submit"
        variant="flat"
        :disabled="!address.trim() || !events.length"
        :loading="add.isPending.value"
        >Add program</v-btn
      >
    </v-form>
    <HandOver
      v-model="shown"
      title="Secret"
      :text="secret"
      words="What is sent is signed with it (RFC 9421, hmac-sha256). It is shown this once: keep it where the program finds it and nobody else does."
    />
    <ConfirmDialog
      v-model="asked"
      title="Remove the program?"
      :text="`${leaving?.address ?? ''} is told nothing any more. What it did not get yet is not sent.`"
      action="Remove"
      @confirmed="leaving && remove.mutate(leaving.id)"
    />
  </template>
</template>

<style scoped>
.next {
  margin-top: 26px;
}
.line {
  max-width: 980px;
}
.line .v-btn {
  margin-top: 22px;
  height: 40px;
}
.events {
  max-width: 360px;
}
.address {
  overflow-wrap: anywhere;
}
</style>
