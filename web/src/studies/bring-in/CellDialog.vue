<script setup lang="ts">
// One cell: its output, its runs with what they took and said, times told by hand, the preview beside it.
import { computed, ref } from "vue";

import { api, ask } from "@/api/client";
import { type Contender, type Frame, type Run, useCellRuns } from "@/api/queries";
import { useAct } from "@/shared/lib/useAct";
import type { Runs } from "./useRuns";
import { useSending } from "@/uploads/useSending";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { fixed, lasting, named } from "@/shared/lib/words";
import { bytes } from "@/shared/lib/formats";
import DropZone from "@/shared/ui/DropZone.vue";
import LetterBox from "@/shared/ui/LetterBox.vue";
import SendingList from "@/uploads/SendingList.vue";

const props = defineProps<{ contender: Contender; frame: Frame; runs: Runs }>();
const open = defineModel<boolean>({ required: true });
const { outputOf, canEdit } = useStudyContext();
const { data: made } = useCellRuns(
  () => props.contender.id,
  () => props.frame.id,
);
const { act } = useAct();
const { sent, send, drop } = useSending(() => ({
  kind: "preview",
  contender: props.contender.id,
  frame: props.frame.id,
}));
const cell = computed(() => props.runs.covered(props.contender.id, props.frame.id));
const output = computed(() => outputOf(props.contender, props.frame));
const params = computed(() => ({
  path: { contender_id: props.contender.id, frame_id: props.frame.id },
}));
const repeats = ref(1);
const times = ref({ load_s: "", process_s: "", export_s: "", machine: "" });
const telling = ref(false);
const said = ref<number>();

const run = () =>
  props.runs.run(
    "cells",
    [{ contender: props.contender.id, frame: props.frame.id }],
    repeats.value,
  );

async function tellTimes(): Promise<void> {
  const of = (text: string) => (text === "" ? null : Number(text));
  const { load_s, process_s, export_s, machine } = times.value;
  const body = { load_s: of(load_s), process_s: of(process_s), export_s: of(export_s), machine };
  const path = params.value;
  const kept = await act(() =>
    ask(api.PUT("/api/contenders/{contender_id}/outputs/{frame_id}/runs", { params: path, body })),
  );
  if (kept) telling.value = false;
}

function takePreview(): void {
  const path = params.value;
  void act(() =>
    ask(api.DELETE("/api/contenders/{contender_id}/outputs/{frame_id}/preview", { params: path })),
  );
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
const ended = { made: "made", failed: "failed", told: "told by hand" } as const;
const preview = computed(() => output.value?.preview_told);
const brighter = (ev: number): string =>
  Math.abs(ev) < 0.02
    ? "as bright"
    : `${Math.abs(ev).toFixed(2)} EV ${ev > 0 ? "brighter" : "darker"}`;
</script>

<template>
  <v-dialog v-model="open" max-width="780" scrollable>
    <v-card class="sheet">
      <div class="cell">
        <div class="top">
          <LetterBox :letter="contender.letter" />
          <h2>{{ named(contender) }}</h2>
        </div>
        <p class="soft">on {{ frame.name }}</p>
        <p v-if="output?.file_name" class="mono">{{ output.file_name }}</p>
        <p v-if="cell?.state === 'running'" role="status">
          {{ cell.doing }} ({{ Math.round(100 * cell.progress) }} %)
        </p>
        <p v-else-if="cell?.state === 'waiting'">Waiting for its turn.</p>
        <p v-if="cell?.why" :class="{ rowan: cell.state !== 'impossible' }">{{ cell.why }}</p>
        <p v-if="cell?.out_of_date" class="rowan">
          This output was {{ cell.out_of_date }}. It stays as it is until it is made again.
        </p>
        <p v-if="cell?.by_hand" class="soft">{{ cell.by_hand }}.</p>
        <div v-if="canEdit && !cell?.by_hand" class="line">
          <v-btn variant="flat" @click="run">{{
            cell?.state === "made" ? "Make it again" : "Make it"
          }}</v-btn>
          <label class="soft"
            >timed
            <input
              v-model.number="repeats"
              type="number"
              class="number-input few"
              min="1"
              max="9"
            />
            {{ repeats === 1 ? "time" : "times" }}</label
          >
        </div>

        <h3>Runs</h3>
        <p v-if="!made?.length" class="soft">None yet.</p>
        <ol v-else class="list">
          <li v-for="r in made" :key="r.id">
            <p>
              <strong>{{ ended[r.outcome] }}</strong>
              <span class="soft">, {{ new Date(r.created).toLocaleString("en-GB") }}</span>
              <span v-if="r.number > 1" class="soft">, repeat {{ r.number }}</span>
              <span v-if="r.alone" class="soft">, with the machine to itself</span>
              <span v-if="r.same === false" class="rowan"
                >, not the same bytes as the run before</span
              >
            </p>
            <p class="mono">{{ told(r) }}</p>
            <p v-if="r.problem" :class="{ rowan: r.outcome === 'failed' }">{{ r.problem }}</p>
            <p v-if="r.machine" class="soft">{{ r.machine }}</p>
            <template v-if="r.steps.length">
              <button
                type="button"
                class="link"
                :aria-expanded="said === r.id"
                @click="said = said === r.id ? undefined : r.id"
              >
                {{ said === r.id ? "Hide commands and words" : "Commands and words" }}
              </button>
              <div v-if="said === r.id" class="said">
                <p class="soft">{{ r.words }}</p>
                <p v-for="(s, i) in r.steps" :key="i" class="mono">{{ s.line }}</p>
                <pre tabindex="0">{{ r.said || "It said nothing." }}</pre>
              </div>
            </template>
          </li>
        </ol>

        <template v-if="output?.picture && canEdit">
          <form v-if="telling" class="line" @submit.prevent="tellTimes">
            <label
              v-for="[key, title] in [
                ['load_s', 'load'],
                ['process_s', 'process'],
                ['export_s', 'export'],
              ] as const"
              :key="key"
            >
              {{ title }}
              <input
                v-model="times[key]"
                type="number"
                class="number-input few"
                min="0"
                step="any"
              />
              s
            </label>
            <label
              >on <input v-model="times.machine" class="text-input" placeholder="which computer"
            /></label>
            <button type="submit" class="link">Keep the times</button>
          </form>
          <button v-else type="button" class="link start" @click="telling = true">
            Tell times measured elsewhere
          </button>
        </template>

        <template v-if="output?.picture">
          <h3>Preview beside the export</h3>
          <template v-if="output.preview">
            <p v-if="preview?.refused" class="rowan">{{ preview.refused }}</p>
            <p v-else-if="preview?.scale !== undefined">
              The preview shows {{ preview.width }} x {{ preview.height }} px ({{
                fixed(100 * preview.scale, 0)
              }}
              % of the export), is {{ brighter(preview.exposure_ev ?? 0) }}, differs in colour by
              ΔE00 {{ fixed(preview.de00 ?? 0, 1) }}, and has
              {{ fixed(100 * (preview.sharpness ?? 0), 0) }} % of the export's fine contrast at that
              size.
            </p>
            <p v-else class="soft">Being compared ...</p>
            <button v-if="canEdit" type="button" class="link start" @click="takePreview">
              Take the preview away
            </button>
          </template>
          <template v-else>
            <SendingList :sending="sent" @drop="drop" />
            <DropZone
              v-if="canEdit"
              label="Attach a capture of the tool's preview"
              hint="the whole picture, as it was on screen"
              small
              @files="(files) => send(files.slice(0, 1))"
            />
          </template>
        </template>
        <div class="line"><v-btn variant="text" @click="open = false">Close</v-btn></div>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.cell {
  display: grid;
  gap: 10px;
}
.top,
.line {
  display: flex;
  gap: 8px 18px;
  align-items: center;
  flex-wrap: wrap;
}
h3 {
  margin-top: 8px;
}
.few {
  width: 60px;
}
.list {
  list-style: none;
  padding: 0;
  display: grid;
  gap: 10px;
}
.list li {
  border-top: 1px solid var(--hair);
  padding-top: 8px;
}
.said {
  padding-top: 6px;
}
pre {
  font: 12px var(--mono);
  white-space: pre-wrap;
  max-height: 220px;
  overflow-y: auto;
  border-left: 2px solid var(--rule);
  padding: 4px 12px;
}
.start {
  justify-self: start;
}
</style>
