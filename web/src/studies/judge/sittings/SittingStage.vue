<script setup lang="ts">
// One sitting: who sits while it is open, what came of it once it is closed.
import { computed, ref } from "vue";
import { useRouter } from "vue-router";

import ConfirmDialog from "@/shared/ui/ConfirmDialog.vue";
import { useStudyContext } from "@/studies/shared/useStudyContext";

import GuestLinks from "./GuestLinks.vue";
import { useSittingActs } from "./mutations";
import OutcomeBlock from "./OutcomeBlock.vue";
import { useSitting } from "./queries";
import { STATE_WORDS } from "./words";

const props = defineProps<{ sitting: number }>();
const { study, canEdit } = useStudyContext();
const router = useRouter();
const { data: sitting, error } = useSitting(
  () => study.value.id,
  () => props.sitting,
);
const acts = useSittingActs(() => study.value.id);
const closing = ref(false);
const removing = ref(false);
const list = computed(() => `/studies/${study.value.id}/judge`);
async function sit(): Promise<void> {
  const seat = await acts.sit(props.sitting);
  if (seat) await router.push(`/sit/${seat.key}`);
}

async function remove(): Promise<void> {
  if (await acts.remove(props.sitting)) await router.push(list.value);
}
</script>

<template>
  <p v-if="error" class="rowan pt-3" role="alert">{{ error.message }}</p>
  <section v-else-if="sitting" class="pt-3">
    <p class="small"><router-link :to="list">Judge</router-link></p>
    <div class="block-head">
      <h2>{{ sitting.question }}</h2>
      <span class="soft">sitting {{ sitting.number }}, {{ STATE_WORDS[sitting.state] }}</span>
    </div>
    <p v-if="sitting.simulated" class="rowan">The judges of this sitting are simulated.</p>
    <p v-if="sitting.said" class="said">{{ sitting.said }}</p>
    <p class="soft">{{ sitting.how }}.</p>
    <p v-if="sitting.state === 'preparing'" role="status">
      Its crops are being cut and frozen. It opens by itself.
      <router-link to="/queue">Queue</router-link>
    </p>
    <p v-else-if="sitting.state === 'failed'" class="rowan" role="alert">{{ sitting.problem }}</p>
    <template v-else-if="sitting.state === 'open'">
      <p>
        {{ sitting.judges === 1 ? "1 judge" : `${sitting.judges} judges` }},
        {{ sitting.done }} finished, {{ sitting.answers }} answers. What they chose is told once the
        sitting is closed, so that nobody is led by it.
      </p>
      <div class="row middle py-2">
        <v-btn variant="flat" :loading="acts.busy.value" @click="sit">Sit</v-btn>
        <v-btn v-if="canEdit" @click="closing = true">Close the sitting</v-btn>
      </div>
      <GuestLinks v-if="canEdit" :sitting="sitting" />
    </template>
    <OutcomeBlock v-else :sitting="sitting" />
    <p v-if="canEdit" class="pt-6">
      <TextAction @click="removing = true">Remove this sitting</TextAction>
    </p>
    <ConfirmDialog
      v-model="closing"
      title="Close the sitting?"
      :text="`${sitting.answers} answers are counted. No more are taken, also of those who have not finished.`"
      action="Close"
      @confirmed="acts.close(sitting.id)"
    />
    <ConfirmDialog
      v-model="removing"
      title="Remove the sitting?"
      :text="`Sitting ${sitting.number} goes with its ${sitting.answers} answers and its crops.`"
      action="Remove"
      @confirmed="remove"
    />
  </section>
</template>

<style scoped>
.said {
  font: 500 19px/1.35 var(--display);
  max-width: 70ch;
  padding: 4px 0;
}
</style>
