<script setup lang="ts">
// Could a slider do it: one contender, sharpened as far as another is sharp.
import { computed } from "vue";
import { useRouter } from "vue-router";

import { useAddress } from "@/shared/lib/useAddress";
import QuietSelect from "@/shared/ui/QuietSelect.vue";
import CompareTabs from "@/studies/compare/CompareTabs.vue";
import InquiryState from "@/studies/compare/questions/InquiryState.vue";
import { useLevel, useLevelChanges } from "@/studies/compare/questions/queries";
import QuestionTabs from "@/studies/compare/questions/QuestionTabs.vue";
import { useStudyContext } from "@/studies/shared/useStudyContext";

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
const { data, error } = useLevel(() => study.value.id, one, other);
const { busy, sharpen, enter } = useLevelChanges(() => study.value.id);
const asked = () => void sharpen(one.value, other.value);
const found = computed(() => data.value?.found ?? undefined);
const canEnter = computed(
  () =>
    canEdit.value &&
    found.value?.cells.some((c) => c.fit) &&
    columns.value.some((c) => c.letter === one.value && (c.treatment || c.letter === "U")),
);
async function entered(): Promise<void> {
  const made = await enter(one.value, other.value);
  if (!made) return;
  await router.push(`/studies/${study.value.id}/compare`);
}
</script>

<template>
  <div class="toolbar"><CompareTabs /></div>
  <div class="toolbar">
    <QuestionTabs />
    <span class="end row middle ga-2">
      <QuietSelect v-model="one" label="Sharpen" :items="choices" />
      <QuietSelect v-model="other" label="as far as" :items="choices" />
    </span>
  </div>
  <p v-if="error" class="rowan">{{ error.message }}</p>
  <template v-else-if="data">
    <InquiryState
      :page="data"
      :found="!!found"
      :busy="busy"
      :can-edit="canEdit"
      :doing="`${one} is being sharpened as far as ${other} is sharp, and measured`"
      @ask="asked"
    />
    <v-empty-state
      v-if="!found && data.state !== 'waiting' && data.state !== 'failed'"
      :title="`Could a slider bring ${one} to the sharpness of ${other}?`"
      text="The radius and amount of an unsharp mask are sought that bring one to the other’s transfer, frequency by frequency; then noise, halos, detail and false detail of both are measured at one level."
    >
      <template v-if="canEdit" #actions>
        <v-btn variant="flat" :loading="busy" :disabled="one === other" @click="asked"
          >Sharpen {{ one }}</v-btn
        >
      </template>
    </v-empty-state>
    <template v-if="found">
      <section class="answer py-3" aria-label="Answer">
        <p v-for="words in found.said" :key="words">{{ words }}</p>
        <p v-if="canEnter" class="pt-2">
          <v-btn variant="flat" :loading="busy" @click="entered"
            >Enter {{ one }}, sharpened to {{ other }}</v-btn
          >
          <span class="soft small ml-3"
            >A contender of its own, made from the outputs of {{ one }} by the unsharp mask that
            comes with Glenhail.</span
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
