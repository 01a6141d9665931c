<script setup lang="ts">
import { ref } from "vue";

import type { Shape } from "@/api/client";
import { day, moment } from "@/shared/lib/formats";
import WithdrawDialog from "./WithdrawDialog.vue";
import { stateOf } from "./editions";

type Edition = Shape["EditionOut"];
defineProps<{ editions: readonly Edition[]; canWithdraw?: boolean }>();
const emit = defineEmits<{ withdraw: [number: number, reason: string] }>();
const asking = ref(false);
const which = ref(0);

function ask(edition: Edition): void {
  which.value = edition.number;
  asking.value = true;
}
</script>

<template>
  <p v-if="!editions.length" class="soft">
    Nothing published yet, and nothing of this study is public.
  </p>
  <ol v-else class="bare">
    <li v-for="e in editions" :key="e.number" class="d-flex flex-wrap gr-1 gc-4 py-2 hair-below">
      <a :href="e.address">Edition {{ e.number }}</a>
      <span class="soft"
        >{{ day(e.published) }}<template v-if="e.publisher">, {{ e.publisher }}</template></span
      >
      <a v-if="stateOf(e) === 'public'" :href="`${e.address}edition.pdf`">PDF</a>
      <TextAction
        v-if="canWithdraw && stateOf(e) !== 'withdrawn'"
        :aria-label="`Withdraw edition ${e.number}`"
        @click="ask(e)"
        >Withdraw</TextAction
      >
      <p v-if="stateOf(e) === 'withdrawn'" class="rowan">
        Withdrawn {{ day(e.withdrawn ?? "") }}: {{ e.withdrawn_because }}
      </p>
      <p v-else-if="stateOf(e) === 'waiting'">
        Only this bench reads it before {{ moment(e.public_from ?? "") }}.
      </p>
      <p v-if="e.note">{{ e.note }}</p>
    </li>
  </ol>
  <WithdrawDialog
    v-model="asking"
    :number="which"
    @withdraw="(reason) => emit('withdraw', which, reason)"
  />
</template>

<style scoped>
li p {
  flex-basis: 100%;
}
</style>
