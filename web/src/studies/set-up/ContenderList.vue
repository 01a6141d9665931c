<script setup lang="ts">
import { ref } from "vue";

import { api, ask } from "@/api/client";
import type { Contender, Treatment } from "@/api/queries";
import { useAct } from "@/shared/lib/useAct";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { entered, named, titled } from "@/shared/lib/words";
import BodyEntry from "./BodyEntry.vue";
import ConfirmDialog from "@/shared/ui/ConfirmDialog.vue";
import DifferencePanel from "./DifferencePanel.vue";
import LetterBox from "@/shared/ui/LetterBox.vue";
import TreatmentForm from "@/tools/treatment/TreatmentForm.vue";

const { study, canEdit, columns, treatments } = useStudyContext();
const { busy, act } = useAct();
const editing = ref<number | "new">();
const withdrawing = ref<Contender>();
const asked = ref(false);
const copied = ref<Treatment | null>(null);

function begin(from: Treatment | null): void {
  copied.value = from;
  editing.value = "new";
}

async function enter(body: Treatment): Promise<void> {
  const params = { path: { study_id: study.value.id } };
  const made = await act(() =>
    ask(api.POST("/api/studies/{study_id}/contenders", { params, body })),
  );
  if (made) editing.value = undefined;
}

async function change(contender: Contender, body: Treatment): Promise<void> {
  const params = { path: { contender_id: contender.id } };
  const made = await act(() => ask(api.PUT("/api/contenders/{contender_id}", { params, body })));
  if (made) editing.value = undefined;
}

function askToWithdraw(contender: Contender): void {
  withdrawing.value = contender;
  asked.value = true;
}

function withdraw(): void {
  const contender = withdrawing.value;
  if (!contender) return;
  const params = { path: { contender_id: contender.id } };
  void act(
    () => ask(api.DELETE("/api/contenders/{contender_id}", { params })),
    `${contender.letter} withdrawn.`,
  );
}
</script>

<template>
  <section class="block">
    <div class="block-head">
      <h2>Contenders</h2>
      <span class="soft"
        >Each keeps its letter everywhere. A plain baseline that anybody has belongs among
        them.</span
      >
    </div>
    <div v-for="c in columns" :key="c.id" class="row">
      <LetterBox :letter="c.letter" />
      <TreatmentForm
        v-if="editing === c.id"
        :study="study.id"
        :start="c.treatment"
        :busy="busy"
        action="Save"
        @done="(treatment) => change(c, treatment)"
        @cancel="editing = undefined"
      />
      <template v-else>
        <span class="words">
          <strong>{{ titled(c) }}</strong>
          <span class="soft">{{
            entered(c)
              ? c.manner
              : c.kind === "truth"
                ? "known-good original of the frame"
                : "the frame as it is"
          }}</span>
        </span>
        <span v-if="entered(c) && canEdit" class="acts">
          <button
            v-if="c.treatment"
            type="button"
            class="link"
            :aria-label="`Correct ${named(c)}`"
            @click="editing = c.id"
          >
            Correct
          </button>
          <button
            v-if="c.treatment"
            type="button"
            class="link"
            :aria-label="`Another like ${named(c)}`"
            @click="begin(c.treatment)"
          >
            Another like it
          </button>
          <button
            type="button"
            class="link"
            :aria-label="`Withdraw ${named(c)}`"
            @click="askToWithdraw(c)"
          >
            Withdraw
          </button>
        </span>
      </template>
    </div>
    <div v-if="canEdit" class="row">
      <TreatmentForm
        v-if="editing === 'new'"
        :study="study.id"
        :start="copied"
        :busy="busy"
        action="Enter it"
        family
        @done="enter"
        @cancel="editing = undefined"
      />
      <v-btn v-else @click="begin(null)">Enter a contender</v-btn>
    </div>
    <BodyEntry v-if="canEdit" />
    <DifferencePanel v-if="treatments.length > 1" :contenders="treatments" />
    <ConfirmDialog
      v-model="asked"
      :title="`Withdraw ${withdrawing ? named(withdrawing) : ''}?`"
      text="Its outputs and readings in this study go with it, and its letter is not given again. Files and published editions stay."
      action="Withdraw it"
      @confirmed="withdraw"
    />
  </section>
</template>

<style scoped>
.row {
  display: flex;
  gap: 14px;
  align-items: flex-start;
  padding: 10px 0;
  border-bottom: 1px solid var(--hair);
}
.row:last-of-type {
  border: 0;
}
.words {
  flex: 1;
  display: flex;
  gap: 4px 14px;
  flex-wrap: wrap;
}
.words strong {
  min-width: 160px;
}
.acts {
  display: flex;
  gap: 16px;
}
</style>
