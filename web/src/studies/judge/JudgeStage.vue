<script setup lang="ts">
import { ref, watch } from "vue";

import { useVerdicts } from "@/studies/judge/queries";
import { useNotices } from "@/shared/lib/useNotices";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { keepUnsaved, useVersioned } from "@/shared/lib/useVersioned";
import NextStep from "@/studies/shared/NextStep.vue";

import { useSaveVerdicts } from "./mutations";
import RemarksBlock from "./RemarksBlock.vue";
import SittingsBlock from "./sittings/SittingsBlock.vue";
import TheirText from "@/shared/ui/TheirText.vue";

const { study, canEdit } = useStudyContext();
const { data } = useVerdicts(() => study.value.id);
const notices = useNotices();
const lines = ref<{ use: string; text: string }[]>([]);
const changed = ref(false);
const { tag, theirs, headers, guarded } = useVersioned<{ use: string; text: string }[]>();
const { busy, save: keep } = useSaveVerdicts(() => study.value.id, guarded);
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
  const [gone] = lines.value.splice(index, 1);
  changed.value = true;
  if (gone) notices.tell("Verdict removed.", () => lines.value.splice(index, 0, gone));
}

async function save(): Promise<void> {
  if (await keep(lines.value, headers())) changed.value = false;
}
</script>

<template>
  <SittingsBlock />
  <section class="pt-5">
    <div class="block-head">
      <h2>Verdict by use</h2>
      <span class="soft"
        >What is best depends on what a picture is for: a large print, the web, lamps at
        night.</span
      >
    </div>
    <v-form @submit.prevent="save">
      <div v-for="(line, i) in lines" :key="i" class="line d-flex ga-3 align-end py-2">
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
        <TextAction v-if="canEdit" :aria-label="`Remove verdict ${i + 1}`" @click="remove(i)">
          Remove
        </TextAction>
      </div>
      <TheirText
        v-if="theirs"
        :lines="theirs.map((t) => ({ label: t.use, text: t.text }))"
        @take="takeTheirs"
        @keep="save"
      />
      <p v-if="data && !lines.length" class="soft">
        No verdicts yet. They stand at the top of the report.
      </p>
      <div v-if="canEdit" class="row middle pt-3">
        <v-btn variant="flat" type="submit" :loading="busy" :disabled="!changed"
          >Save verdicts</v-btn
        >
        <TextAction @click="add">Add verdict</TextAction>
      </div>
    </v-form>
  </section>
  <RemarksBlock />
  <NextStep />
</template>

<style scoped>
.use {
  flex: 0 0 240px;
}
@media (max-width: 720px) {
  .line {
    flex-wrap: wrap;
  }
}
</style>
