<script setup lang="ts">
// Where a guest's link leads: what is asked, what is kept, and the way in.
import { useLocalStorage } from "@vueuse/core";
import { ref } from "vue";
import { useRouter } from "vue-router";

import { usePageTitle } from "@/shared/lib/useTitle";

import { useTakeSeat } from "./mutations";
import { useInvitation } from "./queries";
import { aboutMinutes } from "./stage";

const props = defineProps<{ link: string }>();
usePageTitle("Invitation to a sitting");
const router = useRouter();
const { data, error } = useInvitation(props.link);
const { busy, take } = useTakeSeat(props.link);
const nickname = ref("");
// Who comes again by the same link goes on where they were.
const own = useLocalStorage(`invitation-${props.link}`, "");
const WHAT = { pairs: "pairs of pictures", single: "pictures", order: "rows of pictures" };

async function begin(): Promise<void> {
  const seat = own.value || (await take(nickname.value))?.key;
  if (!seat) return;
  own.value = seat;
  await router.push(`/sit/${seat}`);
}
</script>

<template>
  <section class="page readable stack before">
    <p v-if="error" class="rowan" role="alert">{{ error.message }}</p>
    <template v-else-if="data">
      <h1>{{ data.question }}</h1>
      <p v-if="data.problem && !own" role="status">{{ data.problem }}</p>
      <template v-else>
        <p>
          You are asked to compare {{ data.places }} {{ WHAT[data.kind] }}:
          {{ aboutMinutes(data.seconds) }}. No account is needed.
        </p>
        <p class="soft">
          Kept are your answers, how long each took, and what a short check of your screen tells. A
          nickname, if you give one, is seen by the bench alone.
        </p>
        <v-form class="d-flex flex-wrap align-end ga-3" @submit.prevent="begin">
          <v-text-field
            v-if="!own"
            v-model="nickname"
            label="Nickname, if you like"
            maxlength="40"
          />
          <v-btn variant="flat" type="submit" :loading="busy">{{
            own ? "Go on" : "Take a seat"
          }}</v-btn>
        </v-form>
      </template>
    </template>
  </section>
</template>

<style scoped>
.before {
  padding-top: 40px;
}
</style>
