<script setup lang="ts">
import { computed, ref } from "vue";

import type { Contender, Treatment } from "@/api/types";
import { counted, entered, named, titled } from "@/shared/lib/words";
import LetterBox from "@/shared/ui/LetterBox.vue";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import TreatmentForm from "@/tools/treatment/TreatmentForm.vue";

import BodyEntry from "./BodyEntry.vue";
import ContenderTerms from "./ContenderTerms.vue";
import DifferencePanel from "./DifferencePanel.vue";
import { useStudyChanges } from "./mutations";

const FOLDED = 12; // longer lists show their head until they are opened
const { study, canEdit, columns, treatments } = useStudyContext();
const changes = useStudyChanges(() => study.value.id);
const editing = ref<number | "new">();
const copied = ref<Treatment | null>(null);
const whole = ref(false);
const shown = computed(() =>
  whole.value || columns.value.length <= FOLDED ? columns.value : columns.value.slice(0, FOLDED),
);

function begin(from: Treatment | null): void {
  copied.value = from;
  editing.value = "new";
}

async function add(treatment: Treatment): Promise<void> {
  if (await changes.add(treatment)) editing.value = undefined;
}

async function change(contender: Contender, treatment: Treatment): Promise<void> {
  if (await changes.change(contender.id, treatment)) editing.value = undefined;
}

const manner = (c: Contender): string =>
  entered(c)
    ? c.manner
    : c.kind === "truth"
      ? "known-good original of the frame"
      : "the frame as it is";
</script>

<template>
  <section class="block" aria-label="Contenders">
    <div class="block-head">
      <h2>Contenders</h2>
      <span class="soft"
        >Treatments that are compared, each under a letter it keeps everywhere. A plain baseline
        that anybody has belongs among them.</span
      >
    </div>
    <div
      v-for="c in shown"
      :key="c.id"
      class="one d-flex ga-4 align-start hair-below py-2"
      :class="{ marked: String(c.id) === $route.query.contender }"
    >
      <LetterBox :letter="c.letter" />
      <TreatmentForm
        v-if="editing === c.id"
        :study="study.id"
        :start="c.treatment"
        :busy="changes.busy.value"
        action="Save"
        @done="(treatment) => change(c, treatment)"
        @cancel="editing = undefined"
      />
      <template v-else>
        <span class="words flex-1-1-0 d-flex gr-1 gc-4 flex-wrap">
          <strong>{{ titled(c) }}</strong>
          <span class="soft">{{ manner(c) }}</span>
        </span>
        <span v-if="entered(c) && canEdit" class="row">
          <TextAction v-if="c.treatment" :aria-label="`Edit ${named(c)}`" @click="editing = c.id">
            Edit
          </TextAction>
          <TextAction
            v-if="c.treatment"
            :aria-label="`Duplicate ${named(c)}`"
            @click="begin(c.treatment)"
          >
            Duplicate
          </TextAction>
          <ContenderTerms v-if="c.treatment" :contender="c" />
          <TextAction :aria-label="`Remove ${named(c)}`" @click="changes.remove(c)">
            Remove
          </TextAction>
        </span>
      </template>
    </div>
    <p v-if="shown.length < columns.length" class="py-2">
      <TextAction @click="whole = true">
        Show {{ counted(columns.length - shown.length, "more contender") }}
      </TextAction>
    </p>
    <div v-if="canEdit" class="py-3">
      <TreatmentForm
        v-if="editing === 'new'"
        :study="study.id"
        :start="copied"
        :busy="changes.busy.value"
        action="Add"
        family
        @done="add"
        @cancel="editing = undefined"
      />
      <v-btn v-else @click="begin(null)">Add contender</v-btn>
    </div>
    <BodyEntry v-if="canEdit" />
    <DifferencePanel v-if="treatments.length > 1" :contenders="treatments" />
  </section>
</template>
