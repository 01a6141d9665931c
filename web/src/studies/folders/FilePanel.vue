<script setup lang="ts">
// All that is known of one file of a folder, beside the frame it is taken for; where it goes is chosen here too.
import { computed } from "vue";

import type { Contender, FolderFile, Frame } from "@/api/queries";
import { sureness, type Use } from "./useFolderBoard";
import { fileKind, named } from "@/shared/lib/words";
import FrameThumb from "@/viewer/FrameThumb.vue";

const props = defineProps<{
  file: FolderFile;
  frames: Frame[];
  contenders: Contender[];
  canEdit: boolean;
}>();
const emit = defineEmits<{
  place: [to: { use?: Use; frame?: number | null; contender?: number | null }];
}>();
const frame = computed(() => props.frames.find((f) => f.id === props.file.frame));
const number = (event: Event): number | null =>
  Number((event.target as HTMLSelectElement).value) || null;
const USES = [
  ["export", "an output"],
  ["preview", "a captured preview"],
  ["none", "nothing, leave it out"],
] as const;
</script>

<template>
  <aside class="panel" aria-label="The chosen file">
    <h2>{{ file.path.split("/").at(-1) }}</h2>
    <p class="soft path">{{ file.path }}</p>
    <div class="pair">
      <figure>
        <FrameThumb :picture="file.picture" :label="`The file ${file.path}`" :width="150" />
        <figcaption class="soft">the file</figcaption>
      </figure>
      <figure v-if="frame">
        <FrameThumb :picture="frame.picture" :label="`The frame ${frame.name}`" :width="150" />
        <figcaption class="soft">{{ frame.name }}</figcaption>
      </figure>
    </div>
    <p v-if="file.picture.facts" class="soft">{{ fileKind(file.picture.facts) }}</p>
    <p v-if="file.picture.state === 'refused'" class="rowan">{{ file.picture.problem }}</p>
    <dl>
      <dt class="soft">Why here ({{ sureness(file) }})</dt>
      <dd v-for="w in file.why" :key="w">{{ w }}</dd>
    </dl>
    <div v-if="canEdit" class="choose">
      <label>
        <span class="soft">It is</span>
        <select
          class="quiet-select"
          :value="file.use"
          @change="emit('place', { use: ($event.target as HTMLSelectElement).value as Use })"
        >
          <option v-for="[use, words] in USES" :key="use" :value="use">{{ words }}</option>
        </select>
      </label>
      <template v-if="file.use !== 'none'">
        <label>
          <span class="soft">of frame</span>
          <select
            class="quiet-select"
            :value="file.frame ?? ''"
            @change="emit('place', { frame: number($event) })"
          >
            <option value="">not known</option>
            <option v-for="f in frames" :key="f.id" :value="f.id">{{ f.name }}</option>
          </select>
        </label>
        <label>
          <span class="soft">by</span>
          <select
            aria-label="By which contender"
            class="quiet-select"
            :value="file.contender ?? ''"
            @change="emit('place', { contender: number($event) })"
          >
            <option value="">not known</option>
            <option v-for="c in contenders" :key="c.id" :value="c.id">
              {{ c.letter }}, {{ named(c) }}
            </option>
          </select>
        </label>
      </template>
    </div>
  </aside>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 10px;
  align-content: start;
}
h2 {
  font-size: 16px;
  overflow-wrap: anywhere;
}
.path {
  font-size: 12.5px;
  overflow-wrap: anywhere;
}
.pair {
  display: flex;
  gap: 12px;
}
figcaption {
  font-size: 12.5px;
}
.choose {
  display: grid;
  gap: 8px;
}
.choose label {
  display: grid;
  grid-template-columns: 66px minmax(0, 1fr);
  align-items: center;
}
.choose select {
  max-width: 100%;
}
</style>
