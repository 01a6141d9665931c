<script setup lang="ts">
import { computed, ref, watch } from "vue";

import { useReport } from "@/studies/publish/queries";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { keepUnsaved, useVersioned } from "@/shared/lib/useVersioned";
import { useWork } from "@/queue/useWork";
import EditionList from "@/reports/EditionList.vue";
import FairLine from "@/studies/shared/FairLine.vue";
import type { Shape } from "@/api/client";
import ArticleBlocks from "./ArticleBlocks.vue";
import CorrectionsPanel from "./CorrectionsPanel.vue";
import PreviewDialog from "./PreviewDialog.vue";
import PublishForm from "./PublishForm.vue";
import RetestPanel from "./RetestPanel.vue";
import TextValues from "./TextValues.vue";
import { orderIn } from "./blocks";
import { useReportChanges } from "./mutations";
import TheirText from "@/shared/ui/TheirText.vue";

const { study, canEdit } = useStudyContext();
const { data, error } = useReport(() => study.value.id);
const report = computed(() => data.value?.data);
type Texts = Shape["ReportIn"];
const { tag, theirs, headers, guarded } = useVersioned<Texts>();
const changes = useReportChanges(() => study.value.id, guarded);
const work = useWork();
const text = ref<Texts>({ summary: "", method: "", disclosure: "", blocks: [] });
/** Another text may have been kept in the browser before reports had blocks. */
const blocks = computed({
  get: () => text.value.blocks ?? report.value?.blocks ?? [],
  set: (to) => {
    text.value = { ...text.value, blocks: to };
    changed.value = true;
  },
});
const changed = ref(false);
const previewing = ref(false);
keepUnsaved(`report-${study.value.id}`, text, changed, tag);
watch(data, follow, { immediate: true });

/** What was saved is shown, unless something is being written. */
function follow(): void {
  if (!data.value || changed.value) return;
  const { summary, method, disclosure, blocks: kept } = data.value.data;
  text.value = { summary, method, disclosure, blocks: kept };
  tag.value = data.value.tag;
}

function takeTheirs(): void {
  if (theirs.value) text.value = { ...theirs.value };
  theirs.value = null;
  changed.value = false;
}
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

async function save(): Promise<void> {
  if (await changes.save(text.value, headers())) changed.value = false;
}
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
      <v-form class="text in-grid ga-4 pt-2 justify-items-start" @submit.prevent="save">
        <v-textarea
          v-model="text.summary"
          label="Summary"
          hint="A few sentences; the answer first"
          rows="3"
          :readonly="!canEdit || !data"
          @update:model-value="changed = true"
        />
        <TextValues :values="valuesOf('summary')" />
        <v-textarea
          v-model="text.method"
          label="Method"
          hint="How it was done, and what was held still"
          rows="4"
          :readonly="!canEdit || !data"
          @update:model-value="changed = true"
        />
        <TextValues :values="valuesOf('method')" />
        <v-textarea
          v-model="text.disclosure"
          label="Disclosure"
          hint="Who paid for what, and who saw it before"
          rows="3"
          :readonly="!canEdit || !data"
          @update:model-value="changed = true"
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
            :readonly="!canEdit || !data"
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
          @take="takeTheirs"
          @keep="save"
        />
        <div v-if="canEdit">
          <v-btn type="submit" :loading="changes.busy.value" :disabled="!changed">Save</v-btn>
          <v-btn class="ml-3" :disabled="!report" @click="previewing = true">Preview</v-btn>
        </div>
      </v-form>
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
        v-else-if="study.role !== 'viewer'"
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
  <PreviewDialog v-model="previewing" :study="study.id" :next="next" :unsaved="changed" />
</template>

<style scoped>
.text > *,
.printing > * {
  width: 100%;
}
</style>
