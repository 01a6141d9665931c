<script setup lang="ts">
import { mdiDotsHorizontal } from "@mdi/js";
import { computed } from "vue";

import type { StudyRow } from "@/api/types";
import { day } from "@/shared/lib/formats";
import { counted, entered, heldAgainst, named } from "@/shared/lib/words";
import LetterBox from "@/shared/ui/LetterBox.vue";
import FrameThumb from "@/viewer/FrameThumb.vue";

const MOST = 6; // contenders named in the list
const props = defineProps<{ study: StudyRow; canEdit: boolean; owns: boolean }>();
const emit = defineEmits<{ duplicate: []; archive: [on: boolean]; remove: [] }>();
const treatments = computed(() =>
  props.study.contenders.filter((c) => entered(c) || heldAgainst(c)),
);
const state = computed(() => {
  const s = props.study;
  return [
    { label: "Frames", text: s.frames ? counted(s.frames, "frame") : "none yet", open: !s.frames },
    {
      label: "Outputs",
      text: s.outputs_wanted ? `${s.outputs_there} of ${s.outputs_wanted}` : "none yet",
      open: s.outputs_there < s.outputs_wanted || !s.outputs_wanted,
    },
    {
      label: "Patches",
      text: s.patches ? counted(s.patches, "patch", "patches") : "none yet",
      open: !s.patches,
    },
    { label: "Published", text: s.edition ? `edition ${s.edition}` : "not yet", open: !s.edition },
  ];
});
</script>

<template>
  <article class="line in-grid ga-5 py-4 rule-below" :aria-label="study.question">
    <FrameThumb
      v-if="study.cover"
      :picture="study.cover"
      label="First frame of the study"
      :width="150"
    />
    <div v-else class="blank" />
    <div>
      <h2>
        <router-link
          :to="`/studies/${study.id}/${study.outputs_there ? 'compare' : 'set-up'}`"
          class="plain-link"
          >{{ study.question }}</router-link
        >
      </h2>
      <p class="soft row">
        <span>Varies: {{ study.factor }}. Added {{ day(study.created) }}.</span>
        <span v-if="study.archived">Archived.</span>
        <a v-if="study.edition" :href="`/reports/${study.slug}/${study.edition}/`"
          >Read edition {{ study.edition }}</a
        >
      </p>
      <ul class="bare row">
        <li
          v-for="c in treatments.slice(0, MOST)"
          :key="c.id"
          class="contender d-flex ga-2 align-center"
        >
          <LetterBox :letter="c.letter" /> {{ named(c) }}
        </li>
        <li v-if="treatments.length > MOST" class="soft">
          and {{ treatments.length - MOST }} more
        </li>
        <li v-if="!treatments.length" class="soft">No contender yet</li>
      </ul>
    </div>
    <dl style="--columns: repeat(4, 1fr)" class="state in-grid ga-3 align-content-start columns">
      <div v-for="item in state" :key="item.label">
        <dt class="soft small">{{ item.label }}</dt>
        <dd :class="{ soft: item.open }">{{ item.text }}</dd>
      </div>
    </dl>
    <v-menu v-if="canEdit">
      <template #activator="{ props: opens }">
        <IconAction
          v-bind="opens"
          :icon="mdiDotsHorizontal"
          :aria-label="`Actions for ${study.question}`"
        />
      </template>
      <v-list>
        <v-list-item title="Duplicate" @click="emit('duplicate')" />
        <v-list-item
          :title="study.archived ? 'Restore' : 'Archive'"
          @click="emit('archive', !study.archived)"
        />
        <v-list-item
          v-if="owns"
          title="Delete …"
          :disabled="!!study.edition"
          :subtitle="study.edition ? 'Published studies stay' : undefined"
          @click="emit('remove')"
        />
      </v-list>
    </v-menu>
  </article>
</template>

<style scoped>
.line {
  grid-template-columns: 150px minmax(0, 1fr) minmax(330px, 400px) auto;
}
@media (max-width: 900px) {
  .line {
    grid-template-columns: minmax(0, 1fr) auto;
  }
  .line > :first-child {
    display: none;
  }
}
.blank {
  border: 1px dashed var(--rule);
  height: 99px;
}
</style>
