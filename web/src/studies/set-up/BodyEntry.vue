<script setup lang="ts">
// Another body's shots of the same scenes, added as a contender.
import { computed } from "vue";

import { counted } from "@/shared/lib/words";
import { useStudyContext } from "@/studies/shared/useStudyContext";

import { useStudyChanges } from "./mutations";
import { useBodiesAtHand } from "./queries";

const { study } = useStudyContext();
const { data } = useBodiesAtHand(() => study.value.id);
const { busy, addBody } = useStudyChanges(() => study.value.id);
const bodies = computed(() => {
  const there = study.value.contenders.filter((c) => c.kind === "body").map((c) => c.title);
  return (data.value ?? []).filter((b) => !there.includes(b.body));
});
</script>

<template>
  <div v-for="b in bodies" :key="b.body" class="row middle py-2">
    <v-btn size="small" :loading="busy" @click="addBody(b.body)">Add {{ b.body }}</v-btn>
    <span class="soft"
      >It shot the same scenes at about the same ISO as {{ counted(b.frames, "frame") }} of this
      study.</span
    >
  </div>
</template>
