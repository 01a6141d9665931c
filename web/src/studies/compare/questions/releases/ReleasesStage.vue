<script setup lang="ts">
// Release against release: what changed on every frame, by every measure, in speed.
import { computed } from "vue";

import { useAddress } from "@/shared/lib/useAddress";
import QuietSelect from "@/shared/ui/QuietSelect.vue";
import CompareTabs from "@/studies/compare/CompareTabs.vue";
import InquiryState from "@/studies/compare/questions/InquiryState.vue";
import { useReleaseChanges, useReleases } from "@/studies/compare/questions/queries";
import QuestionTabs from "@/studies/compare/questions/QuestionTabs.vue";
import { useStudyContext } from "@/studies/shared/useStudyContext";

import ChangedFrame from "./ChangedFrame.vue";
import ChangedMeasures from "./ChangedMeasures.vue";

const { study, treatments, canEdit } = useStudyContext();
const { inAddress } = useAddress();
const choices = computed(() =>
  treatments.value.map((c) => ({ value: c.letter, title: `${c.letter}, ${c.title}` })),
);
const from = inAddress("from");
const to = inAddress("to");
const { data, error, isPending } = useReleases(() => study.value.id, from, to);
const { busy, compare } = useReleaseChanges(() => study.value.id);
const found = computed(() => data.value?.found ?? undefined);
// What is not chosen is what the server proposes: the first pair that there is.
const chosen = (end: "from" | "to") =>
  computed({
    get: () => (end === "from" ? from.value || data.value?.earlier : to.value || data.value?.later),
    set: (letter: string | undefined) => {
      const both = { from: data.value?.earlier ?? "", to: data.value?.later ?? "" };
      from.value = (end === "from" ? letter : from.value || both.from) ?? "";
      to.value = (end === "to" ? letter : to.value || both.to) ?? "";
    },
  });
const earlier = chosen("from");
const later = chosen("to");
const asked = () => void compare(earlier.value ?? "", later.value ?? "");
</script>

<template>
  <div class="toolbar"><CompareTabs /></div>
  <div class="toolbar">
    <QuestionTabs />
    <span v-if="treatments.length > 1" class="end row middle ga-2">
      <QuietSelect v-model="earlier" label="From" :items="choices" />
      <QuietSelect v-model="later" label="to" :items="choices" />
    </span>
  </div>
  <p v-if="error" class="rowan">{{ error.message }}</p>
  <v-skeleton-loader v-else-if="isPending" type="table" />
  <template v-else-if="data">
    <InquiryState
      :page="data"
      :found="!!found"
      :busy="busy"
      :can-edit="canEdit"
      :doing="`${later} is being held against ${earlier} on every frame`"
      @ask="asked"
    />
    <v-empty-state
      v-if="!found && data.state !== 'waiting' && data.state !== 'failed'"
      title="What changed from one release to the next?"
      text="Both releases’ outputs are held against each other pixel by pixel on every frame, then by every measure, and by what they take. Frames are shown in the order of how much changed; files that are the same to the pixel are told."
    >
      <template v-if="canEdit" #actions>
        <v-btn
          v-if="earlier && later"
          variant="flat"
          :loading="busy"
          :disabled="earlier === later"
          @click="asked"
          >Compare {{ earlier }} and {{ later }}</v-btn
        >
        <p v-else class="soft">
          No two contenders are one treatment by two releases. Test a new release again, or choose
          any two above.
        </p>
      </template>
    </v-empty-state>
    <template v-if="found">
      <section class="answer py-3" aria-label="Answer">
        <p v-for="words in found.said" :key="words">{{ words }}</p>
      </section>
      <ChangedMeasures :found="found" />
      <h2 class="pt-4">Frames, most changed first</h2>
      <ChangedFrame
        v-for="cell in found.cells"
        :key="cell.frame"
        :study-id="study.id"
        :cell="cell"
        :earlier="found.earlier"
        :later="found.later"
      />
    </template>
  </template>
</template>

<style scoped>
.answer {
  font-size: 1.06rem;
}
</style>
