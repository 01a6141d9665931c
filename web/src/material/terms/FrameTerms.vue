<script setup lang="ts">
// The terms of one frame or of several, and a way to tell them.
import { computed, ref } from "vue";

import type { Frame } from "@/api/types";
import { counted } from "@/shared/lib/words";

import TermsDialog from "./TermsDialog.vue";
import { complete, shared, type Terms, termsWords, useLicences, useTermsChanges } from "./terms";

const props = defineProps<{
  frames: readonly Pick<Frame, "id" | "name" | "terms">[];
  canEdit: boolean;
}>();
const emit = defineEmits<{ saved: [] }>();
const { data: licences } = useLicences();
const changes = useTermsChanges();
const open = ref(false);
const one = computed(() => (props.frames.length === 1 ? props.frames[0] : undefined));
const words = computed(() => (one.value ? termsWords(one.value.terms, licences.value ?? []) : ""));
const start = computed(() => shared(props.frames.map((f) => f.terms)));
const whose = computed(() => one.value?.name ?? counted(props.frames.length, "frame"));

async function save(terms: Terms): Promise<void> {
  const ids = props.frames.map((f) => f.id);
  if (!(await changes.ofFrames(ids, terms))) return;
  open.value = false;
  emit("saved");
}
</script>

<template>
  <span class="row middle">
    <span v-if="one && !$slots.default" :class="complete(one.terms) ? 'soft' : 'rowan'">{{
      words
    }}</span>
    <slot :act="() => (open = true)">
      <TextAction
        v-if="canEdit"
        :aria-label="`Licence and credit of ${whose}`"
        @click="open = true"
        >{{ one ? "Change" : "Licence and credit of all" }}</TextAction
      >
    </slot>
    <TermsDialog
      v-model="open"
      :title="`Licence and credit of ${whose}`"
      text="They hold for frame and truth, and for what contenders make of it. Readers get files only where all three are told."
      :start="start"
      :busy="changes.busy.value"
      @save="save"
    />
  </span>
</template>
