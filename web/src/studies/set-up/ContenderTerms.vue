<script setup lang="ts">
// Terms of a contender's outputs, where these have any of their own.
import { ref } from "vue";

import type { Contender } from "@/api/types";
import TermsDialog from "@/material/terms/TermsDialog.vue";
import { type Terms, useTermsChanges } from "@/material/terms/terms";
import { named } from "@/shared/lib/words";

const props = defineProps<{ contender: Contender }>();
const changes = useTermsChanges();
const open = ref(false);

async function save(terms: Terms): Promise<void> {
  if (await changes.ofContender(props.contender.id, terms)) open.value = false;
}
</script>

<template>
  <TextAction :aria-label="`Licence of ${named(contender)}`" @click="open = true">
    Licence
  </TextAction>
  <TermsDialog
    v-model="open"
    :title="`Licence of ${contender.letter}'s outputs`"
    text="Only where these outputs have terms of their own, as those that a maker sent. The terms of their frames hold as well."
    :start="contender.terms"
    :busy="changes.busy.value"
    @save="save"
  />
</template>
