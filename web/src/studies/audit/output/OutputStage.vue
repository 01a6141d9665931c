<script setup lang="ts">
// One output against its frame: line-up, tone and colour, what was done to the picture.
import { computed } from "vue";
import { useRoute, useRouter } from "vue-router";

import { useExamination } from "@/studies/audit/queries";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { entered, named } from "@/shared/lib/words";
import BringInTabs from "@/studies/bring-in/BringInTabs.vue";
import PrintPanel from "@/material/prints/PrintPanel.vue";
import ChoiceBar from "@/shared/ui/ChoiceBar.vue";
import QuietSelect from "@/shared/ui/QuietSelect.vue";
import LetterBox from "@/shared/ui/LetterBox.vue";
import LineUpPanel from "./LineUpPanel.vue";
import PicturePanel from "./PicturePanel.vue";
import TonePanel from "./TonePanel.vue";

const props = defineProps<{ output: number }>();
const { study, canEdit } = useStudyContext();
const route = useRoute();
const router = useRouter();
const SHOWN = [
  { value: "line-up", title: "Line-up" },
  { value: "tone", title: "Tone and colour" },
  { value: "picture", title: "Effect on the picture" },
];
const output = computed(() => study.value.outputs.find((o) => o.id === props.output));
const contender = computed(() =>
  study.value.contenders.find((c) => c.id === output.value?.contender),
);
const frame = computed(() => study.value.frames.find((f) => f.id === output.value?.frame));
const { data: found } = useExamination(() => output.value?.id);
const shown = computed({
  get: () => String(route.query.show ?? "line-up"),
  set: (what: string) =>
    void router.replace({ query: { ...route.query, show: what, points: undefined } }),
});
const placing = computed({
  get: () => route.query.points === "place",
  set: (wanted: boolean) =>
    void router.replace({ query: { ...route.query, points: wanted ? "place" : undefined } }),
});
const choices = computed(() =>
  study.value.outputs.filter((o) => {
    const c = study.value.contenders.find((x) => x.id === o.contender);
    return o.picture && c && entered(c);
  }),
);
const label = (id: number) => {
  const o = study.value.outputs.find((x) => x.id === id);
  const c = study.value.contenders.find((x) => x.id === o?.contender);
  const f = study.value.frames.find((x) => x.id === o?.frame);
  return c && f ? `${c.letter} on ${f.name}` : "";
};

function go(id: number): void {
  void router.push({
    path: `/studies/${study.value.id}/outputs/${id}`,
    query: { show: shown.value },
  });
}
</script>

<template>
  <div class="toolbar">
    <BringInTabs />
    <span v-if="output" class="end row middle">
      <ChoiceBar v-model="shown" :items="SHOWN" label="Show" />
      <QuietSelect
        label="Output"
        :model-value="output.id"
        :items="choices.map((o) => ({ value: o.id, title: label(o.id) }))"
        @update:model-value="go(Number($event))"
      />
    </span>
  </div>
  <v-empty-state
    v-if="!output || !contender || !frame"
    title="There is no such output"
    text="It may have been removed."
  >
    <template #actions>
      <v-btn :to="`/studies/${study.id}/bring-in`">All outputs</v-btn>
    </template>
  </v-empty-state>
  <section v-else class="pt-3">
    <div class="block-head">
      <h2 class="d-flex ga-2 align-center">
        <LetterBox :letter="contender.letter" /> {{ named(contender) }} on {{ frame.name }}
      </h2>
    </div>
    <PrintPanel
      v-if="output.picture?.width"
      :width="output.picture.width"
      :height="output.picture.height"
      class="narrow pb-3"
    />
    <LineUpPanel
      v-if="shown === 'line-up'"
      :frame="frame"
      :output="output"
      :found="found"
      :can-edit="canEdit"
      :placing="placing"
      @placing="(on) => (placing = on)"
    />
    <p v-else-if="!found?.ready" class="soft py-4">
      {{
        output.state === "refused"
          ? "It does not line up, so it cannot be examined."
          : "Being examined …"
      }}
    </p>
    <TonePanel v-else-if="shown === 'tone'" :found="found" />
    <PicturePanel v-else :found="found" />
  </section>
</template>
