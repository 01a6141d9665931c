<script setup lang="ts">
// Could a slider do it: one contender, brought to the level of another.
import { computed } from "vue";
import { useRouter } from "vue-router";

import { useAddress } from "@/shared/lib/useAddress";
import QuietSelect from "@/shared/ui/QuietSelect.vue";
import CompareTabs from "@/studies/compare/CompareTabs.vue";
import InquiryState from "@/studies/compare/questions/InquiryState.vue";
import { useLevel, useLevelChanges } from "@/studies/compare/questions/queries";
import QuestionTabs from "@/studies/compare/questions/QuestionTabs.vue";
import { useStudyContext } from "@/studies/shared/useStudyContext";

import { WAYS, type Way } from "./level";
import LevelFrame from "./LevelFrame.vue";

const { study, treatments, columns, canEdit } = useStudyContext();
const router = useRouter();
const { inAddress } = useAddress();
const choices = computed(() =>
  columns.value
    .filter((c) => c.kind !== "truth")
    .map((c) => ({ value: c.letter, title: `${c.letter}, ${c.title}` })),
);
const one = inAddress("one", () => treatments.value[1]?.letter ?? "U");
const other = inAddress("other", () => treatments.value[0]?.letter ?? "");
const named = inAddress("way", () => "sharpness");
const way = computed<Way>({
  get: () => (named.value in WAYS ? (named.value as Way) : "sharpness"),
  set: (chosen) => (named.value = chosen),
});
const ways = Object.entries(WAYS).map(([value, { title }]) => ({ value, title }));
const words = computed(() => WAYS[way.value]);
const { data, error } = useLevel(() => study.value.id, one, other, way);
const { busy, level, enter } = useLevelChanges(() => study.value.id);
const asked = () => void level(one.value, other.value, way.value);
const found = computed(() => data.value?.found ?? undefined);
const canEnter = computed(
  () =>
    canEdit.value &&
    found.value?.cells.some((c) => c.method) &&
    columns.value.some((c) => c.letter === one.value && (c.treatment || c.letter === "U")),
);
async function entered(): Promise<void> {
  const made = await enter(one.value, other.value, way.value);
  if (!made) return;
  await router.push(`/studies/${study.value.id}/compare`);
}
</script>

<template>
  <div class="toolbar"><CompareTabs /></div>
  <div class="toolbar"><QuestionTabs /></div>
  <div class="py-3">
    <span class="row middle ga-2">
      <QuietSelect v-model="one" label="Bring" :items="choices" />
      <QuietSelect v-model="other" label="to" :items="choices" />
      <QuietSelect v-model="way" label="in" :items="ways" />
    </span>
  </div>
  <p v-if="error" class="rowan">{{ error.message }}</p>
  <template v-else-if="data">
    <InquiryState
      :page="data"
      :found="!!found"
      :busy="busy"
      :can-edit="canEdit"
      :doing="`${one} is being brought to the level of ${other}, and measured`"
      @ask="asked"
    />
    <v-empty-state
      v-if="!found && data.state !== 'waiting' && data.state !== 'failed'"
      :title="`Could a slider bring ${one} to ${other} in ${words.level}?`"
      :text="words.asks"
    >
      <template v-if="canEdit" #actions>
        <v-btn variant="flat" :loading="busy" :disabled="one === other" @click="asked"
          >{{ words.does }} {{ one }}</v-btn
        >
      </template>
    </v-empty-state>
    <template v-if="found">
      <section class="answer py-3" aria-label="Answer">
        <p v-for="said in found.said" :key="said">{{ said }}</p>
        <p v-if="canEnter" class="pt-2">
          <v-btn variant="flat" :loading="busy" @click="entered"
            >Enter {{ one }}, {{ words.done }} to {{ other }}</v-btn
          >
          <span class="soft small ml-3"
            >A contender of its own, made from the outputs of {{ one }} by a method that comes with
            Glenhail.</span
          >
        </p>
      </section>
      <LevelFrame
        v-for="cell in found.cells"
        :key="cell.frame"
        :study-id="study.id"
        :cell="cell"
        :one="found.one"
        :other="found.other"
        :way="found.way"
        :several="found.cells.length > 1"
      />
    </template>
  </template>
</template>

<style scoped>
.answer {
  font-size: 1.06rem;
}
</style>
