<script setup lang="ts">
import { computed, ref } from "vue";

import type { Contender, Frame, Output } from "@/api/types";
import { useSending } from "@/uploads/useSending";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { entered, fileKind, lineupWords, moved } from "@/shared/lib/words";
import DropZone from "@/shared/ui/DropZone.vue";
import { useCellChanges } from "./mutations";
import SendingList from "@/uploads/SendingList.vue";

const props = defineProps<{
  contender: Contender;
  frame: Frame;
  output: Output | undefined;
  canEdit: boolean;
}>();
const { study } = useStudyContext();
const { sent, send, drop } = useSending(() => ({
  kind: "output",
  contender: props.contender.id,
  frame: props.frame.id,
}));
const changes = useCellChanges(
  () => study.value.id,
  () => props.contender.id,
  () => props.frame.id,
);
const own = computed(() => props.canEdit && entered(props.contender));
const stating = ref(false);
const absence = ref("");
const place = computed(() => `${props.contender.letter} on ${props.frame.name}`);

async function state(): Promise<void> {
  await changes.stateAbsence(absence.value);
  stating.value = false;
}
</script>

<template>
  <div class="cell in-grid ga-1 justify-items-start">
    <template v-if="output">
      <p v-if="output.file_name" class="mono file text-break">{{ output.file_name }}</p>
      <p v-if="output.state === 'absent'">No output. Reason: {{ output.problem }}</p>
      <p v-else-if="output.state === 'refused'" class="rowan" role="alert">{{ output.problem }}</p>
      <template v-else-if="output.state === 'ready'">
        <p v-if="output.problem" class="rowan" role="alert">{{ output.problem }}</p>
        <p v-if="output.picture?.facts" class="soft">{{ fileKind(output.picture.facts) }}</p>
        <ul class="bare mono" :class="{ moved: moved(output) }">
          <li v-for="line in lineupWords(output)" :key="line">{{ line }}</li>
        </ul>
        <p v-for="doubt in output.lineup?.doubts ?? []" :key="doubt" class="rowan">
          In doubt: {{ doubt }}
        </p>
      </template>
      <p v-else class="soft">{{ output.state === "waiting" ? "Being read" : "Lining up" }} …</p>
    </template>
    <p v-else-if="contender.kind === 'truth'" class="soft">no truth for this frame</p>
    <router-link
      v-if="output?.picture && entered(contender)"
      :to="`/studies/${study.id}/outputs/${output.id}`"
      :aria-label="`Line-up and tone of ${place}`"
      >Line-up and tone</router-link
    >
    <SendingList :sending="sent" @drop="drop" />
    <template v-if="own">
      <DropZone
        v-if="!output || output.state === 'absent' || output.state === 'refused'"
        :label="output?.state === 'refused' ? 'Add another file' : 'Add output'"
        small
        @files="(files) => send(files.slice(0, 1))"
      />
      <v-form v-if="stating" class="stack" @submit.prevent="state">
        <v-text-field v-model="absence" label="Reason" autofocus maxlength="300" />
        <span class="row">
          <v-btn type="submit" size="small" :disabled="!absence.trim()">Save</v-btn>
          <TextAction @click="stating = false">Cancel</TextAction>
        </span>
      </v-form>
      <TextAction v-else-if="!output" :aria-label="`No output of ${place}`" @click="stating = true">
        No output …
      </TextAction>
      <TextAction v-if="output" :aria-label="`Remove ${place}`" @click="changes.remove">
        Remove
      </TextAction>
    </template>
  </div>
</template>

<style scoped>
.moved {
  font-weight: 600;
}
</style>
