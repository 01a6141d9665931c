<script setup lang="ts">
// The wall, or one of its rows, as one picture.
import { useObjectUrl } from "@vueuse/core";
import { computed, ref, shallowRef, watch } from "vue";

import { isoDay } from "@/shared/lib/formats";
import { save } from "@/shared/lib/saving";
import { useNotices } from "@/shared/lib/useNotices";
import { fixed, half } from "@/shared/lib/words";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import type { Light } from "@/viewer/light";

import { drawnSheet, type SheetRow, sheetPlan, type Wanted } from "./sheet";
import { FITTING, FORMATS } from "./sheetPlan";
import type { Spot } from "./spots";
import type { Told, Wall } from "./useWall";

const props = defineProps<{ wall: Wall; light: Light }>();
const open = defineModel<boolean>({ required: true });
const { study, outputOf } = useStudyContext();
const notices = useNotices();
const all = computed(() => props.wall.rows.value);
const of = ref(all.value[0]?.spot.key ?? "");
const format = ref(FORMATS[0].name);
const zoom = ref(FITTING);
const readings = ref(true);
const source = ref(`${study.value.question} Glenhail, ${isoDay(new Date()) ?? ""}.`);
const ROWS = computed(() => [
  { value: "", title: `all ${all.value.length} rows` },
  ...all.value.map(({ spot }) => ({ value: spot.key, title: `${spot.title}, ${spot.sub}` })),
]);
const SIZES = FORMATS.map(({ name }) => ({ value: name, title: name }));
const ZOOMS = [
  { value: FITTING, title: "as large as fits" },
  ...[1, 2, 4, 8].map((value) => ({ value, title: `${100 * value} %` })),
];

const rows = computed<SheetRow[]>(() =>
  all.value
    .filter(({ spot }) => !of.value || spot.key === of.value)
    .map(({ spot, told }) => ({ spot, crops: cropsOf(spot, told) }))
    .filter(({ crops }) => crops.length),
);

function cropsOf(spot: Spot, told: Told) {
  return props.wall.seen.value.flatMap((contender) => {
    const output = outputOf(contender, spot.frame);
    return output?.state === "ready" && output.picture
      ? [{ contender, output, reading: readingOf(told, contender.id) }]
      : [];
  });
}

function readingOf({ measure, readings: there }: Told, contender: number): string {
  const r = there.find((one) => one.contender === contender);
  if (!measure || !r || r.value === null) return "";
  const digits = measure.digits;
  return `${measure.name} ${fixed(r.value, digits)} ±${fixed(half(r), digits)} ${measure.unit}`.trim();
}

const wanted = computed<Wanted>(() => ({
  format: FORMATS.find((f) => f.name === format.value) ?? FORMATS[0],
  zoom: zoom.value,
  light: props.light,
  readings: readings.value,
  heading:
    rows.value.length === 1
      ? `${rows.value[0]?.spot.title ?? ""}, ${rows.value[0]?.spot.sub ?? ""}`
      : study.value.question,
  source: source.value,
}));
const plan = computed(() => sheetPlan(rows.value, wanted.value));
const made = shallowRef<Blob>();
const shown = useObjectUrl(made);
/** Whether what is shown is of other choices than these. */
const stale = ref(true);
let newest = 0;
watch(
  [plan, wanted, open],
  async () => {
    const mine = ++newest;
    stale.value = true;
    if (!open.value || !plan.value) return (made.value = undefined);
    try {
      const sheet = await drawnSheet(rows.value, plan.value, wanted.value);
      if (mine !== newest) return undefined;
      made.value = sheet;
      stale.value = false;
    } catch (error) {
      notices.warn(error);
    }
    return undefined;
  },
  { immediate: true },
);

function take(): void {
  if (made.value) save(made.value, `${wanted.value.heading}.png`);
}

async function copy(): Promise<void> {
  if (!made.value) return;
  try {
    await navigator.clipboard.write([new ClipboardItem({ "image/png": made.value })]);
    notices.tell("Picture copied.");
  } catch (error) {
    notices.warn(error);
  }
}
</script>

<template>
  <v-dialog v-model="open" max-width="900" aria-labelledby="sheet-title">
    <v-card>
      <h2 id="sheet-title">Contact sheet</h2>
      <div class="in-grid ga-4 pt-3 parts">
        <div class="stack">
          <v-select v-model="of" label="Rows" :items="ROWS" />
          <v-select v-model="format" label="Size" :items="SIZES" />
          <v-select v-model="zoom" label="Subject at" :items="ZOOMS" />
          <v-checkbox v-model="readings" label="With readings" />
          <v-textarea v-model="source" label="Source line" rows="2" maxlength="200" />
        </div>
        <div class="sheet in-grid">
          <img v-if="shown && plan" class="w-100 d-block" :src="shown" alt="The sheet" />
          <p v-else-if="!plan" class="soft pa-4">
            So many crops would be too small to tell anything. Choose one row, hide columns, or take
            a larger size.
          </p>
          <p v-else class="soft pa-4">It is being drawn.</p>
        </div>
      </div>
      <div class="dialog-acts">
        <v-btn variant="flat" :disabled="!made || stale" @click="take">Save</v-btn>
        <v-btn variant="outlined" :disabled="!made || stale" @click="copy">Copy</v-btn>
        <v-btn variant="text" @click="open = false">Close</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.parts {
  grid-template-columns: 230px minmax(0, 1fr);
}
.sheet {
  align-content: start;
}
.sheet img {
  border: 1px solid var(--hair);
}
</style>
