<script setup lang="ts">
// All that is known of one file of a folder, beside the frame it is taken for; where it goes is
// chosen here too.
import { computed } from "vue";

import type { Contender, FolderFile, Frame } from "@/api/types";
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
const USES = [
  { value: "export", title: "output" },
  { value: "preview", title: "captured preview" },
  { value: "none", title: "not used" },
];
const unknown = { value: null, title: "not known" };
const frameItems = computed(() => [
  unknown,
  ...props.frames.map((f) => ({ value: f.id, title: f.name })),
]);
const contenderItems = computed(() => [
  unknown,
  ...props.contenders.map((c) => ({ value: c.id, title: `${c.letter}, ${named(c)}` })),
]);
</script>

<template>
  <aside class="in-grid ga-2 align-content-start" aria-label="Selected file">
    <h2 class="text-break">{{ file.path.split("/").at(-1) }}</h2>
    <p class="soft path small text-break">{{ file.path }}</p>
    <div class="pair d-flex ga-3">
      <figure>
        <FrameThumb :picture="file.picture" :label="`The file ${file.path}`" :width="150" />
        <figcaption class="soft small">the file</figcaption>
      </figure>
      <figure v-if="frame">
        <FrameThumb :picture="frame.picture" :label="`The frame ${frame.name}`" :width="150" />
        <figcaption class="soft small">{{ frame.name }}</figcaption>
      </figure>
    </div>
    <p v-if="file.picture.facts" class="soft">{{ fileKind(file.picture.facts) }}</p>
    <p v-if="file.picture.state === 'refused'" class="rowan">{{ file.picture.problem }}</p>
    <dl>
      <dt class="soft">Reasons ({{ sureness(file) }})</dt>
      <dd v-for="w in file.why" :key="w">{{ w }}</dd>
    </dl>
    <div v-if="canEdit" class="stack">
      <v-select
        label="Use as"
        :model-value="file.use"
        :items="USES"
        @update:model-value="emit('place', { use: $event as Use })"
      />
      <template v-if="file.use !== 'none'">
        <v-select
          label="Frame"
          :model-value="file.frame as never"
          :items="frameItems as never"
          @update:model-value="emit('place', { frame: $event as number | null })"
        />
        <v-select
          label="Contender"
          :model-value="file.contender as never"
          :items="contenderItems as never"
          @update:model-value="emit('place', { contender: $event as number | null })"
        />
      </template>
    </div>
  </aside>
</template>

<style scoped>
h2 {
  font-size: 16px;
}
</style>
