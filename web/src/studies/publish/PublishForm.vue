<script setup lang="ts">
import { computed, ref } from "vue";

import type { Shape } from "@/api/client";
import { isTime, momentOf } from "@/reports/editions";
import ConfirmDialog from "@/shared/ui/ConfirmDialog.vue";
import DateField from "@/shared/ui/DateField.vue";

type Clips = NonNullable<Shape["NoteIn"]["clips"]>;
const CLIPS: { title: string; value: Clips }[] = [
  { title: "No clips", value: "none" },
  { title: "Of the first figure", value: "first" },
  { title: "Of your own figures", value: "own" },
  { title: "Of every figure", value: "all" },
];
const { study, report, next, hindered } = defineProps<{
  study: number;
  report: Shape["ReportOut"] | undefined;
  /** The number that the next edition gets. */
  next: number;
  /** Why nothing can be published now, as far as the report goes. */
  hindered: string;
  failed: string | undefined;
  busy: boolean;
}>();
const emit = defineEmits<{ publish: [asked: Shape["NoteIn"]] }>();
const note = ref("");
const from = ref<string | null>(null);
const time = ref("00:00");
const clips = ref<Clips>("none");
const layers = ref(false);
const asking = ref(false);
const why = computed(() => {
  if (hindered) return hindered;
  if (next > 1 && !note.value.trim()) return `State what changed since edition ${next - 1}.`;
  return from.value && !isTime(time.value) ? "State the time as 14:00." : "";
});

/** Where each of the things that readers would ask is answered. */
const PLACES: Record<string, string> = {
  audit: "Like for like",
  judge: "Verdicts",
  tools: "Tools",
  "set-up": "Licence and credit",
};
const placeOf = (page: string) => (page === "tools" ? "/tools" : `/studies/${study}/${page}`);
const staying = computed(() => {
  const open = report?.asked.length ?? 0;
  const left =
    open === 1
      ? "One thing that readers would ask is"
      : `${open} things that readers would ask are`;
  return `An edition is public and stays for ever: what is wrong in it is put right in the next one.${open ? ` ${left} open.` : ""}`;
});

function publish(): void {
  emit("publish", {
    note: note.value,
    public_from: momentOf(from.value, time.value),
    clips: clips.value,
    layers: layers.value,
  });
  note.value = "";
  from.value = null;
}
</script>

<template>
  <v-form class="publish in-grid ga-4 pt-2 justify-items-start" @submit.prevent="asking = true">
    <v-text-field
      v-model="note"
      :label="next > 1 ? `What changed since edition ${next - 1}` : 'Note (optional)'"
      maxlength="400"
    />
    <div class="d-flex flex-wrap ga-4">
      <DateField v-model="from" class="when" label="Public from (optional)" />
      <v-text-field
        v-if="from"
        v-model="time"
        class="when"
        label="Time, your clock"
        maxlength="5"
      />
    </div>
    <fieldset class="extras" aria-describedby="extras-told">
      <legend>Files beside it</legend>
      <div class="d-flex flex-wrap ga-4 align-end">
        <v-select v-model="clips" class="clips" :items="CLIPS" label="Clips for video" />
        <v-checkbox v-model="layers" label="Each frame with its contenders as layers" />
      </div>
      <p id="extras-told" class="soft small">
        Clips show the contenders in turn, and a pan along them, as MP4 and animated WebP in 1080p
        and 4K: a minute or two a figure. Layers are OpenRaster of 16 bit, as large as the outputs
        together, without what its licence keeps back.
      </p>
    </fieldset>
    <section v-if="report?.asked.length" aria-label="What readers would ask">
      <h3>Readers would ask</h3>
      <ul class="asked">
        <li v-for="q in report.asked" :key="q.text">
          {{ q.text }}
          <router-link v-if="q.page !== 'publish'" :to="placeOf(q.page)">{{
            PLACES[q.page] ?? "See"
          }}</router-link>
        </li>
      </ul>
    </section>
    <p v-if="report?.commands.length" class="soft">
      The edition also tells how {{ report.commands.join(", ") }}
      {{ report.commands.length === 1 ? "is" : "are" }} run here, arguments and all.
    </p>
    <v-btn type="submit" variant="flat" :loading="busy" :disabled="!!why"
      >Publish edition {{ next }}</v-btn
    >
    <ConfirmDialog
      v-model="asking"
      :title="`Publish edition ${next}?`"
      :text="staying"
      :action="`Publish for good`"
      @confirmed="publish"
    />
    <p v-if="why" class="soft">{{ why }}</p>
    <p v-if="failed" class="rowan">{{ failed }}</p>
  </v-form>
</template>

<style scoped>
.when {
  flex: 0 0 190px;
}
.extras {
  border: 0;
  padding: 0;
}
.extras legend {
  padding: 0;
  font-weight: 600;
}
.clips {
  flex: 0 1 220px;
}
.asked {
  padding-left: 18px;
}
.publish > :first-child {
  width: 100%;
}
</style>
