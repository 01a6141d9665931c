<script setup lang="ts">
import { ref, watch } from "vue";

import { api, ask } from "@/api/client";
import { useVerdicts } from "@/api/queries";
import { useAct } from "@/shared/lib/useAct";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { keepUnsaved, useVersioned } from "@/shared/lib/useVersioned";
import TheirText from "@/shared/ui/TheirText.vue";

const { study, canEdit } = useStudyContext();
const { data } = useVerdicts(() => study.value.id);
const { busy, act } = useAct();
const lines = ref<{ use: string; text: string }[]>([]);
const changed = ref(false);
const { tag, theirs, headers, guarded } = useVersioned<{ use: string; text: string }[]>();
keepUnsaved(`verdicts-${study.value.id}`, lines, changed, tag);
watch(data, follow, { immediate: true });

/** What was saved is shown, unless something is being written. */
function follow(): void {
  if (!data.value || changed.value) return;
  lines.value = data.value.data.map((r) => ({ ...r }));
  tag.value = data.value.tag;
}

function takeTheirs(): void {
  if (theirs.value) lines.value = theirs.value.map((t) => ({ ...t }));
  theirs.value = null;
  changed.value = false;
}

function add(): void {
  lines.value.push({ use: "", text: "" });
  changed.value = true;
}

function remove(index: number): void {
  lines.value.splice(index, 1);
  changed.value = true;
}

async function save(): Promise<void> {
  const params = { path: { study_id: study.value.id } };
  const body = { verdicts: lines.value };
  const kept = await act(
    () =>
      guarded(() =>
        ask(api.PUT("/api/studies/{study_id}/verdicts", { params, body, headers: headers() })),
      ),
    "Verdicts saved.",
  );
  if (kept) changed.value = false;
}
</script>

<template>
  <section class="block">
    <div class="block-head">
      <h2>Verdict by use</h2>
      <span class="soft"
        >A result depends on what a picture is for: a large print, the web, lamps at night. Say each
        apart.</span
      >
    </div>
    <form @submit.prevent="save">
      <div v-for="(line, i) in lines" :key="i" class="line">
        <v-text-field
          v-model="line.use"
          label="Use"
          maxlength="80"
          class="use"
          :readonly="!canEdit || !data"
          @update:model-value="changed = true"
        />
        <v-text-field
          v-model="line.text"
          label="Verdict"
          maxlength="400"
          :readonly="!canEdit || !data"
          @update:model-value="changed = true"
        />
        <button
          v-if="canEdit"
          type="button"
          class="link"
          :aria-label="`Remove verdict ${i + 1}`"
          @click="remove(i)"
        >
          Remove
        </button>
      </div>
      <TheirText
        v-if="theirs"
        :lines="theirs.map((t) => ({ label: t.use, text: t.text }))"
        @take="takeTheirs"
        @keep="save"
      />
      <p v-if="data && !lines.length" class="soft">
        No verdict yet. They stand at the top of the report.
      </p>
      <div v-if="canEdit" class="acts">
        <v-btn variant="flat" type="submit" :loading="busy" :disabled="!changed"
          >Save verdicts</v-btn
        >
        <button type="button" class="link" @click="add">Add a verdict</button>
      </div>
    </form>
  </section>
</template>

<style scoped>
.line {
  display: flex;
  gap: 12px;
  align-items: end;
  padding: 6px 0;
}
.line .link {
  padding-bottom: 10px;
}
.use {
  flex: 0 0 240px;
}
.acts {
  display: flex;
  gap: 20px;
  align-items: center;
  padding-top: 12px;
}
</style>
