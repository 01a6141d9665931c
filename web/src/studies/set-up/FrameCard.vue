<script setup lang="ts">
import type { Frame } from "@/api/types";
import { useFrameChanges } from "@/material/frames/mutations";
import ScenePick from "@/material/frames/ScenePick.vue";
import TruthPanel from "@/material/frames/TruthPanel.vue";
import FrameTerms from "@/material/terms/FrameTerms.vue";
import { fileKind, printSize, shooting } from "@/shared/lib/words";
import NameField from "@/shared/ui/NameField.vue";
import FrameThumb from "@/viewer/FrameThumb.vue";

defineProps<{ frame: Frame; others: readonly Frame[]; canEdit: boolean }>();
const emit = defineEmits<{ remove: [] }>();
const { rename } = useFrameChanges();
</script>

<template>
  <article
    style="--columns: auto minmax(240px, 1fr) minmax(220px, 380px) auto"
    class="frame in-grid gr-2 gc-5 py-3 hair-below columns folds"
  >
    <FrameThumb :picture="frame.picture" :label="`${frame.name}, whole frame`" />
    <div>
      <NameField
        v-if="canEdit"
        :name="frame.name"
        label="Name of the frame"
        @change="(name) => rename(frame.id, name)"
      />
      <h3 v-else>{{ frame.name }}</h3>
      <p class="mono file text-break">{{ frame.file_name }}</p>
      <p v-if="frame.picture.state === 'refused'" class="rowan">{{ frame.picture.problem }}</p>
      <template v-else-if="frame.picture.facts">
        <p>{{ shooting(frame.picture.facts) || "The file does not state how it was shot." }}</p>
        <p class="soft">{{ fileKind(frame.picture.facts) }}</p>
        <p class="soft">{{ printSize(frame.picture.facts) }}</p>
        <p v-if="frame.picture.facts.developed" class="soft">
          Developed: {{ frame.picture.facts.developed }}
        </p>
      </template>
      <p v-else class="soft">Being read: decoding, facts, display copy.</p>
      <ScenePick :frame="frame" :can-edit="canEdit" />
      <FrameTerms :frames="[frame]" :can-edit="canEdit" />
    </div>
    <div>
      <h3>Truth</h3>
      <TruthPanel :frame="frame" :others="others" :can-edit="canEdit" />
    </div>
    <div class="stack align-content-start justify-items-end ga-2">
      <router-link :to="`/frames/${frame.id}`" :aria-label="`Open ${frame.name}`">Open</router-link>
      <router-link
        v-if="canEdit && !frame.recipe && frame.picture.state === 'ready'"
        :to="`/frames/${frame.id}/degrade`"
        :aria-label="`Degrade ${frame.name}`"
      >
        Degrade
      </router-link>
      <TextAction v-if="canEdit" :aria-label="`Remove ${frame.name}`" @click="emit('remove')">
        Remove
      </TextAction>
    </div>
  </article>
</template>
