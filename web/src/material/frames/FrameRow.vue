<script setup lang="ts">
// One frame of the bench on one line: what it is, how it was shot, its truth, where it is used.
import { computed } from "vue";

import type { Frame } from "@/api/types";
import { counted, shooting } from "@/shared/lib/words";
import FrameThumb from "@/viewer/FrameThumb.vue";

const props = defineProps<{ frame: Frame; canEdit: boolean }>();
const chosen = defineModel<boolean>({ required: true });
const truth = computed(() => {
  const f = props.frame;
  if (f.recipe) return `clean original; made by: ${f.made_by}`;
  if (f.truth_made) return f.truth_made.words;
  return f.truth ? f.truth_name : "no truth";
});
const size = computed(() => {
  const facts = props.frame.picture.facts;
  return facts ? `${facts.width} × ${facts.height} px, ${facts.bits} bit ${facts.format}` : "";
});
</script>

<template>
  <article class="frame" :class="{ chosen }">
    <v-checkbox v-if="canEdit" v-model="chosen" :aria-label="`Select ${frame.name}`" />
    <span v-else />
    <router-link :to="`/frames/${frame.id}`" tabindex="-1" aria-hidden="true">
      <FrameThumb :picture="frame.picture" :label="`${frame.name}, whole frame`" :width="96" />
    </router-link>
    <div>
      <h3>
        <router-link :to="`/frames/${frame.id}`" class="plain-link">{{ frame.name }}</router-link>
      </h3>
      <p class="mono file soft text-break">{{ frame.file_name }}</p>
    </div>
    <div v-if="frame.picture.state === 'refused'" class="rowan wide">
      {{ frame.picture.problem }}
    </div>
    <div v-else-if="!frame.picture.facts" class="soft wide">Being read.</div>
    <template v-else>
      <div>
        <p>{{ shooting(frame.picture.facts) || "not stated how it was shot" }}</p>
        <p class="soft">{{ size }}</p>
      </div>
      <p class="truth" :class="{ soft: !frame.truth }">{{ truth }}</p>
    </template>
    <div class="ends soft text-end">
      <p v-if="frame.found">shows {{ frame.found }}</p>
      <p>{{ frame.studies ? counted(frame.studies, "study", "studies") : "in no study" }}</p>
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
  grid-template-columns: 32px 96px minmax(200px, 1fr) minmax(220px, 1fr) minmax(200px, 1.1fr) 96px;
  gap: 4px 18px;
  padding: 8px 0;
  border-bottom: 1px solid var(--hair);
  align-items: start;
}
.chosen {
  background: color-mix(in srgb, var(--spruce) 6%, transparent);
}
.wide {
  grid-column: span 2;
}
.truth {
  display: -webkit-box;
  -webkit-line-clamp: 3;
  -webkit-box-orient: vertical;
  overflow: hidden;
  overflow-wrap: anywhere;
}
@media (max-width: 900px) {
  .frame {
    grid-template-columns: 32px 96px minmax(0, 1fr);
  }
  .frame > :nth-child(n + 4) {
    grid-column: 2 / -1;
    text-align: left;
  }
}
</style>
