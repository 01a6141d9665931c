<script setup lang="ts">
import { computed, ref } from "vue";

import { useStudyContext } from "@/studies/shared/useStudyContext";
import { useWork } from "@/queue/useWork";
import EditionList from "@/reports/EditionList.vue";
import FairLine from "@/studies/shared/FairLine.vue";
import ArticleBlocks from "./ArticleBlocks.vue";
import CommentsPanel from "./CommentsPanel.vue";
import CorrectionsPanel from "./CorrectionsPanel.vue";
import PreviewDialog from "./PreviewDialog.vue";
import PublishForm from "./PublishForm.vue";
import RetestPanel from "./RetestPanel.vue";
import TextValues from "./TextValues.vue";
import { orderIn } from "./blocks";
import { useReportChanges } from "./mutations";
import { useArticle } from "./useArticle";
import VersionsDialog from "./VersionsDialog.vue";
import TheirText from "@/shared/ui/TheirText.vue";

const { study, canEdit } = useStudyContext();
const article = useArticle(() => study.value.id, canEdit);
const { report, error, ready, text, blocks, changed, theirs, trouble } = article;
const changes = useReportChanges(() => study.value.id);
const work = useWork();
const previewing = ref(false);
const goingBack = ref(false);
const state = computed(() => {
  if (!ready.value) return "";
  if (trouble.value && changed.value) return `Not saved: ${trouble.value}`;
  return changed.value ? "Not saved yet" : "Saved";
});
const printing = computed(() =>
  work.jobs.value.find(
    (j) =>
      j.kind === "publish" &&
      j.study_id === study.value.id &&
      (j.state === "running" || j.state === "queued"),
  ),
);
const failed = computed(
  () => work.jobs.value.find((j) => j.kind === "publish" && j.study_id === study.value.id)?.problem,
);
const next = computed(() => (report.value?.editions[0]?.number ?? 0) + 1);
const hindered = computed(() => {
  if (study.value.role !== "owner") return "Only an owner can publish.";
  if (report.value?.missing) return report.value.missing;
  return changed.value ? "Save the text first." : "";
});

const valuesOf = (where: "summary" | "method") =>
  report.value && text.value[where] === report.value[where]
    ? report.value.values.filter((v) => v.where === where)
    : [];
</script>

<template>
  <p v-if="error" class="rowan">{{ error.message }}</p>
  <FairLine class="pt-3" />
  <div style="--at-least: 380px" class="in-grid ga-8 tiles">
    <section class="block">
      <div class="block-head">
        <h2>Report</h2>
        <span class="soft">Crops, tables, contenders and files are added automatically.</span>
      </div>
      <v-form class="text in-grid ga-4 pt-2 justify-items-start" @submit.prevent="article.save()">
        <v-textarea
          :model-value="text.summary"
          label="Summary"
          hint="A few sentences; the answer first"
          rows="3"
          :readonly="!canEdit || !ready"
          @update:model-value="article.write({ summary: $event })"
        />
        <TextValues :values="valuesOf('summary')" />
        <v-textarea
          :model-value="text.method"
          label="Method"
          hint="How it was done, and what was held still"
          rows="4"
          :readonly="!canEdit || !ready"
          @update:model-value="article.write({ method: $event })"
        />
        <TextValues :values="valuesOf('method')" />
        <v-textarea
          :model-value="text.disclosure"
          label="Disclosure"
          hint="Who paid for what, and who saw it before"
          rows="3"
          :readonly="!canEdit || !ready"
          @update:model-value="article.write({ disclosure: $event })"
        />
        <section v-if="report" aria-label="Order of the report">
          <h3>Order</h3>
          <p class="soft">
            The page is made of these blocks, from top to bottom; what has nothing to say is left
            out.
          </p>
          <ArticleBlocks
            v-model="blocks"
            :kinds="report.kinds"
            :saved="report.blocks"
            :values="report.values"
            :measures="report.measures"
            :readonly="!canEdit || !ready"
          />
        </section>
        <TheirText
          v-if="theirs"
          :lines="[
            { label: 'Summary', text: theirs.summary },
            { label: 'Method', text: theirs.method },
            { label: 'Disclosure', text: theirs.disclosure },
            { label: 'Order', text: orderIn(theirs.blocks ?? [], report?.kinds ?? []) },
          ]"
          @take="article.takeTheirs"
          @keep="article.save()"
        />
        <div v-if="canEdit" class="d-flex flex-wrap ga-3 align-center">
          <v-btn type="submit" :loading="article.asked.value" :disabled="!!theirs">Save</v-btn>
          <v-btn :disabled="!report" @click="previewing = true">Preview</v-btn>
          <TextAction :disabled="!article.canUndo.value" @click="article.step('undo')"
            >Undo</TextAction
          >
          <TextAction :disabled="!article.canRedo.value" @click="article.step('redo')"
            >Redo</TextAction
          >
          <TextAction @click="goingBack = true">Earlier versions</TextAction>
          <span class="soft small" role="status" aria-label="State of the report">{{ state }}</span>
        </div>
      </v-form>
      <CommentsPanel v-if="report" :blocks="blocks" :kinds="report.kinds" />
    </section>
    <section class="block">
      <div class="block-head">
        <h2>Editions</h2>
        <span class="soft">Published states of the report, numbered; they never change.</span>
      </div>
      <EditionList
        v-if="report"
        :editions="report.editions"
        :can-withdraw="study.role === 'owner'"
        @withdraw="changes.withdraw"
      />
      <div v-if="printing" class="printing in-grid ga-4 pt-2 justify-items-start" role="status">
        <p>Preparing edition {{ next }}: {{ printing.message || "waiting" }}</p>
        <v-progress-linear :model-value="100 * printing.progress" aria-label="Share prepared" />
      </div>
      <PublishForm
        v-else-if="report && study.role !== 'viewer'"
        :study="study.id"
        :report="report"
        :next="next"
        :hindered="hindered"
        :failed="failed"
        :busy="changes.busy.value"
        @publish="changes.publish"
      />
      <CorrectionsPanel
        v-if="report?.editions.length"
        :editions="report.editions"
        :kinds="report.kinds"
        :next="next"
      />
      <RetestPanel v-if="report?.editions.length" />
    </section>
  </div>
  <VersionsDialog v-model="goingBack" @take="article.write" />
  <PreviewDialog v-model="previewing" :study="study.id" :next="next" :unsaved="changed" />
</template>

<style scoped>
.text > *,
.printing > * {
  width: 100%;
}
</style>
