<script setup lang="ts">
import { computed } from "vue";

import type { StudyRow } from "@/api/queries";
import { counted, entered, named } from "@/shared/lib/words";
import FrameThumb from "@/viewer/FrameThumb.vue";
import LetterBox from "@/shared/ui/LetterBox.vue";

const props = defineProps<{ study: StudyRow }>();
const treatments = computed(() => props.study.contenders.filter(entered));
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
  <article class="line">
    <FrameThumb
      v-if="study.cover"
      :picture="study.cover"
      label="First frame of the study"
      :width="190"
    />
    <div v-else class="blank" />
    <div>
      <h2>
        <router-link :to="`/studies/${study.id}/${study.outputs_there ? 'compare' : 'set-up'}`">{{
          study.question
        }}</router-link>
      </h2>
      <p class="soft">
        Varies: {{ study.factor }}.
        <a v-if="study.edition" :href="`/reports/${study.slug}/${study.edition}/`"
          >Read edition {{ study.edition }}</a
        >
      </p>
      <ul class="contenders">
        <li v-for="c in treatments" :key="c.id"><LetterBox :letter="c.letter" /> {{ named(c) }}</li>
        <li v-if="!treatments.length" class="soft">No contender entered yet.</li>
      </ul>
    </div>
    <dl>
      <div v-for="item in state" :key="item.label">
        <dt>{{ item.label }}</dt>
        <dd :class="{ soft: item.open }">{{ item.text }}</dd>
      </div>
    </dl>
  </article>
</template>

<style scoped>
.line {
  display: grid;
  grid-template-columns: 190px minmax(0, 1fr) minmax(360px, 420px);
  gap: 24px;
  padding: 18px 0;
  border-bottom: 1px solid var(--rule);
}
.blank {
  border: 1px dashed var(--rule);
  height: 125px;
}
h2 a {
  color: var(--ink);
  text-decoration: none;
}
h2 a:hover {
  text-decoration: underline;
}
p {
  margin: 4px 0 10px;
}
.contenders {
  list-style: none;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 6px 22px;
}
.contenders li {
  display: flex;
  gap: 8px;
  align-items: center;
}
dl {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 12px;
  align-content: start;
  margin-top: 4px;
}
dt {
  color: var(--soft);
  font-size: 12.5px;
}
</style>
