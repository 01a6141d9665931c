<script setup lang="ts">
// Who works at the bench, with which role; inviting, and a new password for whoever forgot theirs.
import { useQuery } from "@tanstack/vue-query";
import { computed, ref } from "vue";

import { useSession } from "@/api/session";
import ConfirmDialog from "@/shared/ui/ConfirmDialog.vue";
import { moment } from "@/shared/lib/formats";
import HandOver from "./HandOver.vue";
import { useChangeRole, useInvite, useOfferPassword, useRemovePerson } from "./mutations";
import { type Member, people, type Role, ROLES } from "./queries";

const MAY: Record<Role, string> = {
  viewer: "see everything and change nothing",
  editor: "add, measure and write",
  owner: "also publish, and manage people and programs",
};
const { data, isPending, error } = useQuery(people);
const { data: session } = useSession();
const inviteRole = ref<Role>("editor");
const mail = ref("");
const link = ref("");
const shown = ref(false);
const words = ref("");
const leaving = ref<Member>();
const asked = ref(false);
const invite = useInvite();
const offer = useOfferPassword();
const changeRole = useChangeRole();
const remove = useRemovePerson();
const roles = computed(() =>
  ROLES.map((r) => ({ title: r, value: r, props: { subtitle: MAY[r] } })),
);

function show(path: string, text: string): void {
  link.value = new URL(path, window.location.origin).href;
  words.value = text;
  shown.value = true;
}

async function add(): Promise<void> {
  const made = await invite
    .mutateAsync({ role: inviteRole.value, mail: mail.value })
    .catch(() => undefined);
  if (!made) return;
  const sent = mail.value ? ` It was sent to ${mail.value}.` : "";
  mail.value = "";
  show(
    made.address,
    `One person can join with it as ${inviteRole.value}, within seven days. It is shown this once.${sent}`,
  );
}

async function offerPassword(member: Member): Promise<void> {
  const made = await offer.mutateAsync(member.id).catch(() => undefined);
  if (made)
    show(
      made.address,
      `${member.name} can set a new password with it, within a day. It is shown this once.`,
    );
}

function ask(member: Member): void {
  leaving.value = member;
  asked.value = true;
}
</script>

<template>
  <v-skeleton-loader v-if="isPending" type="table-tbody" />
  <v-alert v-else-if="error" type="error" :text="error.message" />
  <template v-else>
    <v-table class="readable" aria-label="People">
      <thead>
        <tr>
          <th scope="col">Name</th>
          <th scope="col">Role</th>
          <th scope="col">Last sign-in</th>
          <th scope="col"><span class="visually-hidden">Actions</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="m in data" :key="m.id">
          <td>{{ m.name }}<span v-if="m.name === session?.user" class="soft"> (you)</span></td>
          <td style="width: 190px" class="role py-1">
            <v-select
              :model-value="m.role"
              :items="roles"
              :aria-label="`Role of ${m.name}`"
              @update:model-value="changeRole.mutate({ id: m.id, role: $event as Role })"
            />
          </td>
          <td>{{ m.last_login ? moment(m.last_login) : "never" }}</td>
          <td class="text-end text-no-wrap">
            <v-btn variant="text" size="small" @click="offerPassword(m)"
              >New password<span class="visually-hidden"> for {{ m.name }}</span></v-btn
            >
            <v-btn v-if="m.name !== session?.user" variant="text" size="small" @click="ask(m)"
              >Remove<span class="visually-hidden"> {{ m.name }}</span></v-btn
            >
          </td>
        </tr>
      </tbody>
    </v-table>
    <v-form class="invite readable mt-8" @submit.prevent="add">
      <h2>Invite</h2>
      <div class="line d-flex ga-4 align-end mt-3 mb-2">
        <v-select
          v-model="inviteRole"
          style="max-width: 190px"
          :items="roles"
          label="Role"
          class="narrow"
        />
        <v-text-field v-model="mail" label="Email (only if this bench sends mail)" type="email" />
        <v-btn type="submit" variant="flat" :loading="invite.isPending.value"
          >Create invitation link</v-btn
        >
      </div>
      <p class="soft">As {{ inviteRole }}, they {{ MAY[inviteRole] }}.</p>
    </v-form>
  </template>
  <HandOver v-model="shown" title="Link" :text="link" :words="words" />
  <ConfirmDialog
    v-model="asked"
    :title="`Remove ${leaving?.name} from the bench?`"
    text="Their sessions and tokens end at once. What they did stays, with their name."
    action="Remove"
    @confirmed="leaving && remove.mutate(leaving.id)"
  />
</template>

<style scoped>
.line .v-btn {
  height: 40px;
}
</style>
