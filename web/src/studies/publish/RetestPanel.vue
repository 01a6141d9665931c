<script setup lang="ts">
import { ref } from "vue";

import type { Shape } from "@/api/client";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { useRetesting } from "./mutations";
import { useRetests } from "./queries";
import RetestDialog from "./RetestDialog.vue";

const { study, canEdit } = useStudyContext();
const { data } = useRetests(() => study.value.id);
const retesting = useRetesting(() => study.value.id);
const asking = ref(false);

async function begin(body: Shape["RetestIn"]): Promise<void> {
  if (await retesting.begin(body)) asking.value = false;
}
</script>

<template>
  <section v-if="data?.length && canEdit" class="block" aria-label="Test again">
    <div class="block-head">
      <h2>Test again</h2>
      <span class="soft">With another release of a tool, everything else as it was.</span>
    </div>
    <v-btn class="mt-3" @click="asking = true">Test again with …</v-btn>
    <RetestDialog v-model="asking" :retests="data" :busy="retesting.busy.value" @begin="begin" />
  </section>
</template>
