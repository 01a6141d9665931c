<script setup lang="ts">
// Another body's shots of the same scenes, entered as a contender.
import { api, ask } from "@/api/client";
import { useBodiesAtHand } from "@/api/queries";
import { useAct } from "@/shared/lib/useAct";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { counted } from "@/shared/lib/words";

const { study } = useStudyContext();
const { data: bodies } = useBodiesAtHand(() => study.value.id);
const { busy, act } = useAct();
const entered = (body: string) =>
  study.value.contenders.some((c) => c.kind === "body" && c.title === body);

function enter(body: string): Promise<unknown> {
  const params = { path: { study_id: study.value.id } };
  return act(
    () => ask(api.POST("/api/studies/{study_id}/bodies", { params, body: { body } })),
    `${body} entered; its shots are lined up with the frames.`,
  );
}
</script>

<template>
  <div v-for="b in bodies?.filter((x) => !entered(x.body)) ?? []" :key="b.body" class="body">
    <v-btn size="small" :loading="busy" @click="enter(b.body)">Enter {{ b.body }}</v-btn>
    <span class="soft"
      >It shot the same scenes at about the same ISO as {{ counted(b.frames, "frame") }} of this
      study.</span
    >
  </div>
</template>

<style scoped>
.body {
  display: flex;
  gap: 14px;
  align-items: center;
  padding: 10px 0;
}
</style>
