<script setup lang="ts">
// Links by which guests sit, on any device, without an account.
import { useClipboard } from "@vueuse/core";
import { ref } from "vue";

import type { Shape } from "@/api/client";
import { isoDay, moment } from "@/shared/lib/formats";
import { useNotices } from "@/shared/lib/useNotices";
import DateField from "@/shared/ui/DateField.vue";
import { useStudyContext } from "@/studies/shared/useStudyContext";

import { useSittingActs } from "./mutations";

const props = defineProps<{ sitting: Shape["SittingWhole"] }>();
const { study } = useStudyContext();
const { busy, addLink, revoke } = useSittingActs(() => study.value.id);
const { copy } = useClipboard({ legacy: true });
const notices = useNotices();
const WEEK = 7 * 24 * 3600 * 1000;
const name = ref("");
const most = ref(1);
const ends = ref<string | null>(isoDay(new Date(Date.now() + WEEK)));
const addressOf = (key: string): string => `${location.origin}/invited/${key}`;

async function take(key: string): Promise<void> {
  await copy(addressOf(key));
  notices.tell("Link copied.");
}

async function add(): Promise<void> {
  const body = { name: name.value, most: most.value, ends: `${ends.value ?? ""}T23:59:59Z` };
  if (await addLink(props.sitting.id, body)) name.value = "";
}
</script>

<template>
  <section class="block" aria-label="Guests">
    <h3>Guests</h3>
    <p class="soft">
      Who has a link sits without an account, also on a phone, and sees nothing else of this bench.
    </p>
    <v-table v-if="sitting.links.length">
      <thead>
        <tr>
          <th scope="col">For</th>
          <th scope="col">Address</th>
          <th scope="col">Seats</th>
          <th scope="col">Until</th>
          <th scope="col"><span class="visually-hidden">Acts</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="link in sitting.links" :key="link.id">
          <td>{{ link.name || "anybody" }}</td>
          <td class="mono address">{{ addressOf(link.key) }}</td>
          <td class="mono">{{ link.seats }} of {{ link.most }}</td>
          <td>{{ link.revoked ? "ended" : moment(link.ends) }}</td>
          <td>
            <span class="d-flex ga-4">
              <TextAction @click="take(link.key)">Copy link</TextAction>
              <TextAction v-if="!link.revoked" @click="revoke(link.id)">End link</TextAction>
            </span>
          </td>
        </tr>
      </tbody>
    </v-table>
    <v-form class="d-flex flex-wrap align-end ga-3 pt-2" @submit.prevent="add">
      <v-text-field v-model="name" label="For whom" maxlength="80" />
      <NumberField v-model="most" label="Seats" :min="1" :max="500" class="few" />
      <DateField v-model="ends" label="Until" class="few" />
      <v-btn type="submit" :loading="busy" :disabled="!ends">Add link</v-btn>
    </v-form>
  </section>
</template>

<style scoped>
.few {
  flex: 0 0 150px;
}
.address {
  font-size: 12px;
  overflow-wrap: anywhere;
}
</style>
