<script setup lang="ts">
import { computed, ref } from "vue";

import { api, ask } from "@/api/client";
import type { Contender, Frame, Output } from "@/api/queries";
import { useAct } from "@/shared/lib/useAct";
import { useSending } from "@/uploads/useSending";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { entered, fileKind, lineupWords, moved } from "@/shared/lib/words";
import DropZone from "@/shared/ui/DropZone.vue";
import SendingList from "@/uploads/SendingList.vue";

const props = defineProps<{
  contender: Contender;
  frame: Frame;
  output: Output | undefined;
  canEdit: boolean;
}>();
const { act } = useAct();
const { study } = useStudyContext();
const { sent, send, drop } = useSending(() => ({
  kind: "output",
  contender: props.contender.id,
  frame: props.frame.id,
}));
const own = computed(() => props.canEdit && entered(props.contender));
const params = computed(() => ({
  path: { contender_id: props.contender.id, frame_id: props.frame.id },
}));
const telling = ref(false);
const absence = ref("");
const place = computed(() => `${props.contender.letter} on ${props.frame.name}`);

async function tell(): Promise<void> {
  const body = { absence: absence.value };
  await act(() =>
    ask(
      api.PUT("/api/contenders/{contender_id}/outputs/{frame_id}", { params: params.value, body }),
    ),
  );
  telling.value = false;
}

function takeOut(): void {
  void act(
    () =>
      ask(
        api.DELETE("/api/contenders/{contender_id}/outputs/{frame_id}", { params: params.value }),
      ),
    "Taken out; the file stays on the bench.",
  );
}
</script>

<template>
  <div class="cell">
    <template v-if="output">
      <p v-if="output.file_name" class="file">{{ output.file_name }}</p>
      <p v-if="output.state === 'absent'">None: {{ output.problem }}</p>
      <p v-else-if="output.state === 'refused'" class="rowan" role="alert">{{ output.problem }}</p>
      <template v-else-if="output.state === 'ready'">
        <p v-if="output.problem" class="rowan" role="alert">{{ output.problem }}</p>
        <p v-if="output.picture?.facts" class="soft">{{ fileKind(output.picture.facts) }}</p>
        <ul class="mono lineup" :class="{ moved: moved(output) }">
          <li v-for="line in lineupWords(output)" :key="line">{{ line }}</li>
        </ul>
        <p v-for="doubt in output.lineup?.doubts ?? []" :key="doubt" class="rowan">
          In doubt: {{ doubt }}
        </p>
      </template>
      <p v-else class="soft">
        {{ output.state === "waiting" ? "Being taken in" : "Lining up" }} ...
      </p>
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
        :label="output?.state === 'refused' ? 'Bring in another file' : 'Bring it in'"
        small
        @files="(files) => send(files.slice(0, 1))"
      />
      <form v-if="telling" class="tell" @submit.prevent="tell">
        <v-text-field v-model="absence" label="Why there is none" autofocus maxlength="300" />
        <v-btn type="submit" size="small" :disabled="!absence.trim()">Say so</v-btn>
      </form>
      <button v-else-if="!output" type="button" class="link" @click="telling = true">
        There is none, because ...
      </button>
      <button
        v-if="output"
        type="button"
        class="link"
        :aria-label="`Take out ${place}`"
        @click="takeOut"
      >
        Take out
      </button>
    </template>
  </div>
</template>

<style scoped>
.cell {
  display: grid;
  gap: 5px;
  justify-items: start;
}
.file {
  font-family: var(--mono);
  font-size: 12.5px;
  overflow-wrap: anywhere;
}
.lineup {
  list-style: none;
  padding: 0;
}
.moved {
  color: var(--rowan);
}
.tell {
  display: grid;
  gap: 6px;
  width: 100%;
}
</style>
