<script setup lang="ts">
// One cell: its output, its runs with what they took and said, times told by hand, the preview
// beside it.
import { computed, ref } from "vue";

import type { Contender, Frame, Run } from "@/api/types";
import { useCellRuns } from "@/studies/bring-in/queries";
import { useCellChanges } from "./mutations";
import type { Runs } from "./useRuns";
import { useSending } from "@/uploads/useSending";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { fixed, lasting, named } from "@/shared/lib/words";
import { bytes, moment } from "@/shared/lib/formats";
import DropZone from "@/shared/ui/DropZone.vue";
import LetterBox from "@/shared/ui/LetterBox.vue";
import SendingList from "@/uploads/SendingList.vue";
import { useStopwatch } from "./useStopwatch";

const props = defineProps<{ contender: Contender; frame: Frame; runs: Runs }>();
const open = defineModel<boolean>({ required: true });
const { study, outputOf, canEdit } = useStudyContext();
const { data: made } = useCellRuns(
  () => props.contender.id,
  () => props.frame.id,
);
const changes = useCellChanges(
  () => study.value.id,
  () => props.contender.id,
  () => props.frame.id,
);
const { sent, send, drop } = useSending(() => ({
  kind: "preview",
  contender: props.contender.id,
  frame: props.frame.id,
}));
const cell = computed(() => props.runs.covered(props.contender.id, props.frame.id));
const output = computed(() => outputOf(props.contender, props.frame));
const repeats = ref<number | null>(1);
const times = ref({
  load_s: null as number | null,
  process_s: null as number | null,
  export_s: null as number | null,
  machine: "",
  what: "",
});
// Once there are times, what is told next is one repeat more, unless it is to stand for them.
const byHand = computed(() => (made.value ?? []).filter((r) => r.outcome === "told").length);
const anew = ref(false);
const PARTS = [
  ["load_s", "Load"],
  ["process_s", "Process"],
  ["export_s", "Export"],
] as const;
const telling = ref(false);
const said = ref<number>();

const run = () =>
  props.runs.run(
    "cells",
    [{ contender: props.contender.id, frame: props.frame.id }],
    repeats.value ?? 1,
  );

const LAPS = ["load_s", "process_s", "export_s"] as const;
const DONE = { load_s: "It is loaded", process_s: "It is processed", export_s: "It is exported" };
const watch = useStopwatch(LAPS, (part, s) => (times.value[part] = Number(s.toFixed(1))));
const pressed = computed(() =>
  watch.running.value ? DONE[watch.running.value] : "Start the stopwatch",
);

async function saveTimes(): Promise<void> {
  const again = byHand.value > 0 && !anew.value;
  if (!(await changes.saveTimes({ ...times.value, again }))) return;
  telling.value = false;
  Object.assign(times.value, { load_s: null, process_s: null, export_s: null });
  anew.value = false;
}

const told = (r: Run): string =>
  [
    r.load_s !== null ? `load ${lasting(r.load_s)}` : "",
    r.process_s !== null ? `process ${lasting(r.process_s)}` : "",
    r.export_s !== null ? `export ${lasting(r.export_s)}` : "",
    r.wall_s !== null ? `${lasting(r.wall_s)} in all` : "",
    r.cpu_s !== null ? `${lasting(r.cpu_s)} of processor` : "",
    r.peak_mb !== null ? `${Math.round(r.peak_mb)} MB` : "",
    r.out_bytes !== null ? `writes ${bytes(r.out_bytes)}` : "",
  ]
    .filter(Boolean)
    .join(", ");
const ended = { made: "made", failed: "failed", told: "timed by hand" } as const;
const preview = computed(() => output.value?.preview_told);
const brighter = (ev: number): string =>
  Math.abs(ev) < 0.02
    ? "as bright"
    : `${Math.abs(ev).toFixed(2)} EV ${ev > 0 ? "brighter" : "darker"}`;
</script>

<template>
  <v-dialog v-model="open" max-width="780" scrollable>
    <v-card>
      <div class="cell in-grid ga-2">
        <div class="row middle">
          <LetterBox :letter="contender.letter" />
          <h2>{{ named(contender) }}</h2>
        </div>
        <p class="soft">on {{ frame.name }}</p>
        <p v-if="output?.file_name" class="mono">{{ output.file_name }}</p>
        <p v-if="cell?.state === 'running'" role="status">
          {{ cell.doing }} ({{ Math.round(100 * cell.progress) }} %)
        </p>
        <p v-else-if="cell?.state === 'waiting'">Waiting in the queue.</p>
        <p v-if="cell?.why" :class="{ rowan: cell.state !== 'impossible' }">{{ cell.why }}</p>
        <p v-if="cell?.out_of_date" class="rowan">
          This output was {{ cell.out_of_date }}. It stays until it is made again.
        </p>
        <p v-if="cell?.by_hand" class="soft">{{ cell.by_hand }}.</p>
        <div v-if="canEdit && !cell?.by_hand" class="row middle">
          <v-btn variant="flat" @click="run">{{
            cell?.state === "made" ? "Make again" : "Make output"
          }}</v-btn>
          <NumberField
            v-model="repeats"
            max-width="140"
            class="quiet"
            prefix="Timed runs"
            aria-label="Timed runs"
            :precision="0"
            :min="1"
            :max="9"
          />
        </div>

        <h3 class="mt-2">Runs</h3>
        <p v-if="!made?.length" class="soft">None yet.</p>
        <ol v-else class="bare in-grid ga-2 ruled">
          <li v-for="r in made" :key="r.id">
            <p>
              <strong>{{ ended[r.outcome] }}</strong>
              <span class="soft">, {{ moment(r.created) }}</span>
              <span v-if="r.number > 1" class="soft">, repeat {{ r.number }}</span>
              <span v-if="r.alone" class="soft">, with the machine to itself</span>
              <span v-if="r.same === false" class="rowan"
                >, not the same bytes as the run before</span
              >
            </p>
            <p class="mono">{{ told(r) }}</p>
            <p v-if="r.problem" :class="{ rowan: r.outcome === 'failed' }">{{ r.problem }}</p>
            <p v-if="r.outcome === 'told' && r.said" class="soft">{{ r.said }}</p>
            <p v-if="r.machine" class="soft">{{ r.machine }}</p>
            <template v-if="r.steps.length">
              <TextAction
                :aria-expanded="said === r.id"
                @click="said = said === r.id ? undefined : r.id"
              >
                {{ said === r.id ? "Hide command and messages" : "Command and messages" }}
              </TextAction>
              <div v-if="said === r.id" class="said pt-2">
                <p class="soft">{{ r.words }}</p>
                <p v-for="(s, i) in r.steps" :key="i" class="mono">{{ s.line }}</p>
                <pre class="said margin-rule text-pre-wrap overflow-y-auto pa-1" tabindex="0">{{
                  r.said || "No messages."
                }}</pre>
              </div>
            </template>
          </li>
        </ol>

        <template v-if="output?.picture && canEdit">
          <v-form v-if="telling" class="stack" @submit.prevent="saveTimes">
            <div class="fields">
              <NumberField
                v-for="[key, title] in PARTS"
                :key="key"
                v-model="times[key]"
                :label="title"
                suffix="s"
              />
              <v-text-field v-model="times.machine" label="Computer" />
            </div>
            <v-text-field
              v-model="times.what"
              label="What was timed"
              placeholder="from opening the file to the file on disk"
              maxlength="300"
            />
            <v-checkbox
              v-if="byHand"
              v-model="anew"
              density="compact"
              hide-details
              :label="`In place of ${byHand === 1 ? 'the times' : `all ${byHand} repeats`} told before`"
            />
            <div class="row middle" role="group" aria-label="Stopwatch">
              <v-btn size="small" variant="outlined" @click="watch.press">{{ pressed }}</v-btn>
              <template v-if="watch.running.value">
                <span class="mono" role="timer">{{ watch.seconds.value.toFixed(1) }} s</span>
                <TextAction @click="watch.stop">Stop without a time</TextAction>
              </template>
              <span v-else class="soft small"
                >Press as the file starts to load, when it is loaded, processed, and exported.</span
              >
            </div>
            <span class="row">
              <v-btn type="submit" size="small">Save times</v-btn>
              <TextAction @click="telling = false">Cancel</TextAction>
            </span>
          </v-form>
          <TextAction v-else class="start justify-self-start" @click="telling = true">
            {{ byHand ? "Add a repeat by hand" : "Add times measured elsewhere" }}
          </TextAction>
        </template>

        <template v-if="output?.picture">
          <h3 class="mt-2">Preview beside the export</h3>
          <template v-if="output.preview">
            <p v-if="preview?.refused" class="rowan">{{ preview.refused }}</p>
            <p v-else-if="preview?.scale !== undefined">
              The preview shows {{ preview.width }} × {{ preview.height }} px ({{
                fixed(100 * preview.scale, 0)
              }}
              % of the export), is {{ brighter(preview.exposure_ev ?? 0) }}, differs in colour by
              ΔE00 {{ fixed(preview.de00 ?? 0, 1) }}, and has
              {{ fixed(100 * (preview.sharpness ?? 0), 0) }} % of the export’s fine contrast at that
              size.
            </p>
            <p v-else class="soft">Being compared …</p>
            <TextAction
              v-if="canEdit"
              class="start justify-self-start"
              @click="changes.removePreview"
            >
              Remove preview
            </TextAction>
          </template>
          <template v-else>
            <SendingList :sending="sent" @drop="drop" />
            <DropZone
              v-if="canEdit"
              label="Add a capture of the tool’s preview"
              hint="the whole picture, as it was on screen"
              small
              @files="(files) => send(files.slice(0, 1))"
            />
          </template>
        </template>
        <div class="dialog-acts"><v-btn @click="open = false">Close</v-btn></div>
      </div>
    </v-card>
  </v-dialog>
</template>
