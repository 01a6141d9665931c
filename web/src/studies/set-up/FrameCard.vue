<script setup lang="ts">
import { api, ask } from "@/api/client";
import type { Frame } from "@/api/queries";
import { useAct } from "@/shared/lib/useAct";
import { fileKind, printSize, shooting } from "@/shared/lib/words";
import FrameThumb from "@/viewer/FrameThumb.vue";
import ScenePick from "@/material/frames/ScenePick.vue";
import TruthPanel from "@/material/frames/TruthPanel.vue";

const props = defineProps<{ frame: Frame; others: readonly Frame[]; canEdit: boolean }>();
const emit = defineEmits<{ leave: [] }>();
const { act } = useAct();

function rename(event: Event): void {
  const name = (event.target as HTMLInputElement).value.trim();
  if (!name || name === props.frame.name) return;
  const params = { path: { frame_id: props.frame.id } };
  void act(() => ask(api.PATCH("/api/frames/{frame_id}", { params, body: { name } })));
}
</script>

<template>
  <article class="frame">
    <FrameThumb :picture="frame.picture" :label="`${frame.name}, whole frame`" />
    <div class="what">
      <input
        v-if="canEdit"
        :value="frame.name"
        class="name"
        aria-label="Name of the frame"
        @change="rename"
      />
      <h3 v-else>{{ frame.name }}</h3>
      <p class="file">{{ frame.file_name }}</p>
      <p v-if="frame.picture.state === 'refused'" class="rowan">{{ frame.picture.problem }}</p>
      <template v-else-if="frame.picture.facts">
        <p>{{ shooting(frame.picture.facts) || "The file does not say how it was shot." }}</p>
        <p class="soft">{{ fileKind(frame.picture.facts) }}</p>
        <p class="soft">{{ printSize(frame.picture.facts) }}</p>
        <p v-if="frame.picture.facts.developed" class="soft">
          Developed: {{ frame.picture.facts.developed }}
        </p>
      </template>
      <p v-else class="soft">Being taken in: decoding, reading facts, making the display copy.</p>
      <ScenePick :frame="frame" :can-edit="canEdit" />
    </div>
    <div>
      <h3>Truth</h3>
      <TruthPanel :frame="frame" :others="others" :can-edit="canEdit" />
    </div>
    <div class="out">
      <router-link :to="`/frames/${frame.id}`" :aria-label="`Look at ${frame.name}`"
        >Look</router-link
      >
      <button
        v-if="canEdit"
        type="button"
        class="link"
        :aria-label="`Take out: ${frame.name}`"
        @click="emit('leave')"
      >
        Take out
      </button>
      <router-link
        v-if="canEdit && !frame.recipe && frame.picture.state === 'ready'"
        :to="`/frames/${frame.id}/degrade`"
        :aria-label="`Degrade ${frame.name}`"
      >
        Degrade
      </router-link>
    </div>
  </article>
</template>

<style scoped>
.frame {
  display: grid;
  grid-template-columns: auto minmax(260px, 1fr) minmax(220px, 380px) auto;
  gap: 8px 20px;
  padding: 12px 0;
  border-bottom: 1px solid var(--hair);
}
.name {
  font: 650 15px var(--display);
  border: 0;
  border-bottom: 1px solid transparent;
  background: none;
  color: inherit;
  width: 100%;
  padding: 0;
}
.name:hover,
.name:focus {
  border-bottom-color: var(--rule);
}
.file {
  font-family: var(--mono);
  font-size: 12.5px;
  overflow-wrap: anywhere;
}
.out {
  display: grid;
  gap: 6px;
  align-content: start;
  justify-items: end;
}
</style>
