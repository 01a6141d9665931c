<script setup lang="ts">
import { computed, ref, watch } from "vue";

import { api, ask } from "@/api/client";
import { useReport } from "@/api/queries";
import { useAct } from "@/shared/lib/useAct";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { keepUnsaved, useVersioned } from "@/shared/lib/useVersioned";
import { useWork } from "@/queue/useWork";
import EditionList from "@/reports/EditionList.vue";
import FairLine from "@/studies/shared/FairLine.vue";
import TheirText from "@/shared/ui/TheirText.vue";

const { study, canEdit } = useStudyContext();
const { data, error } = useReport(() => study.value.id);
const report = computed(() => data.value?.data);
const { tag, theirs, headers, guarded } = useVersioned<typeof text.value>();
const { busy, act } = useAct();
const work = useWork();
const text = ref({ summary: "", method: "", disclosure: "" });
const note = ref("");
const changed = ref(false);
keepUnsaved(`report-${study.value.id}`, text, changed, tag);
watch(data, follow, { immediate: true });

/** What was saved is shown, unless something is being written. */
function follow(): void {
  if (!data.value || changed.value) return;
  const { summary, method, disclosure } = data.value.data;
  text.value = { summary, method, disclosure };
  tag.value = data.value.tag;
}

function takeTheirs(): void {
  if (theirs.value) text.value = { ...theirs.value };
  theirs.value = null;
  changed.value = false;
}
const params = computed(() => ({ path: { study_id: study.value.id } }));
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
  if (study.value.role !== "owner") return "Publishing takes an owner.";
  if (report.value?.missing) return report.value.missing;
  if (changed.value) return "Save the text first.";
  if (next.value > 1 && !note.value.trim())
    return `Say what changed since edition ${next.value - 1}.`;
  return "";
});

async function save(): Promise<void> {
  const body = text.value;
  const kept = await act(
    () =>
      guarded(() =>
        ask(
          api.PUT("/api/studies/{study_id}/report", {
            params: params.value,
            body,
            headers: headers(),
          }),
        ),
      ),
    "Report saved.",
  );
  if (kept) changed.value = false;
}

async function publish(): Promise<void> {
  const body = { note: note.value };
  const job = await act(() =>
    ask(api.POST("/api/studies/{study_id}/editions", { params: params.value, body })),
  );
  if (job) note.value = "";
}
</script>

<template>
  <p v-if="error" class="rowan">{{ error.message }}</p>
  <FairLine class="fairness" />
  <div class="two">
    <section class="block">
      <div class="block-head">
        <h2>Report</h2>
        <span class="soft">Crops, tables, contenders and files are added by the press.</span>
      </div>
      <form class="text" @submit.prevent="save">
        <v-textarea
          v-model="text.summary"
          label="Summary, in a few sentences"
          rows="3"
          auto-grow
          :readonly="!canEdit || !data"
          @update:model-value="changed = true"
        />
        <v-textarea
          v-model="text.method"
          label="Method: how it was done, what was held still"
          rows="4"
          auto-grow
          :readonly="!canEdit || !data"
          @update:model-value="changed = true"
        />
        <v-textarea
          v-model="text.disclosure"
          label="Disclosure: who paid for what, who saw it before"
          rows="3"
          auto-grow
          :readonly="!canEdit || !data"
          @update:model-value="changed = true"
        />
        <TheirText
          v-if="theirs"
          :lines="[
            { label: 'Summary', text: theirs.summary },
            { label: 'Method', text: theirs.method },
            { label: 'Disclosure', text: theirs.disclosure },
          ]"
          @take="takeTheirs"
          @keep="save"
        />
        <div v-if="canEdit">
          <v-btn type="submit" :loading="busy" :disabled="!changed">Save the text</v-btn>
        </div>
      </form>
    </section>
    <section class="block">
      <div class="block-head">
        <h2>Editions</h2>
        <span class="soft">Frozen and numbered; old addresses keep working.</span>
      </div>
      <EditionList v-if="report" :editions="report.editions" />
      <div v-if="printing" class="printing" role="status">
        <p>{{ printing.label }}: {{ printing.message || "waiting" }}</p>
        <v-progress-linear :model-value="100 * printing.progress" aria-label="Share printed" />
      </div>
      <form v-else-if="study.role !== 'viewer'" class="publish" @submit.prevent="publish">
        <v-text-field
          v-model="note"
          :label="
            next > 1
              ? `What changed since edition ${next - 1}`
              : 'Note, if there is anything to say'
          "
          maxlength="400"
        />
        <v-btn type="submit" variant="flat" :loading="busy" :disabled="!!hindered"
          >Publish edition {{ next }}</v-btn
        >
        <p v-if="hindered" class="soft">{{ hindered }}</p>
        <p v-if="failed" class="rowan">{{ failed }}</p>
      </form>
    </section>
  </div>
</template>

<style scoped>
.fairness {
  padding-top: 14px;
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 1.4fr) minmax(320px, 1fr);
  gap: 32px;
}
.text,
.publish,
.printing {
  display: grid;
  gap: 14px;
  padding-top: 10px;
  justify-items: start;
}
.text > *,
.publish > :first-child,
.printing > * {
  width: 100%;
}
</style>
