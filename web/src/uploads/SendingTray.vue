<script setup lang="ts">
// All files on their way, seen from every page; and the whole window takes files by drop and by
// paste.
import { computed, onBeforeUnmount, onMounted, ref, watch } from "vue";
import { useRoute } from "vue-router";

import { keys } from "@/api/keys";
import { useStale } from "@/shared/lib/useStale";
import { bytes } from "@/shared/lib/formats";
import { counted, lasting } from "@/shared/lib/words";
import { clear, drop, onArrival, send, sending, type SendingState, takeUp } from "./store";
import { useRate } from "./useRate";
import SendingList from "./SendingList.vue";

const props = defineProps<{ canEdit: boolean }>();
const route = useRoute();
const stale = useStale();
const open = ref(false);
const over = ref(false);
const count = (...states: SendingState[]) =>
  sending.value.filter((i) => states.includes(i.state)).length;
const coming = computed(() => count("waiting", "sending", "taking", "broken"));
const share = computed(() => {
  const whole = sending.value.reduce((sum, i) => sum + i.size, 0);
  return whole ? sending.value.reduce((sum, i) => sum + i.arrived, 0) / whole : 0;
});
const told = computed(() =>
  [
    `${count("done", "known")} of ${counted(sending.value.length, "file")} arrived`,
    count("known") ? `${count("known")} on the bench already` : "",
    count("broken") ? `${count("broken")} interrupted, being retried` : "",
    count("astray") ? `${count("astray")} to be selected again` : "",
    count("refused") ? `${count("refused")} refused` : "",
  ]
    .filter(Boolean)
    .join(", "),
);

/** What has not simply arrived, what needs a look first. */
const FIRST: SendingState[] = [
  "refused",
  "astray",
  "broken",
  "known",
  "sending",
  "taking",
  "waiting",
];
const listed = computed(() =>
  FIRST.flatMap((state) => sending.value.filter((item) => item.state === state)),
);

onArrival(() => stale.add([["study"], keys.frames, ["frame"], ["folder"], keys.studies, ["runs"]]));

const rate = useRate();
const left = computed(() => {
  const seconds = rate.secondsLeft.value;
  return seconds === null ? "" : `${bytes(rate.perSecond.value)}/s, about ${lasting(seconds)} left`;
});

// A batch that went well clears itself; what needs a look stays.
watch([coming, () => sending.value.length], ([left]) => {
  if (!left && sending.value.length && sending.value.every((i) => i.state === "done"))
    setTimeout(maybeClear, 4000);
});
function maybeClear(): void {
  if (sending.value.every((i) => i.state === "done")) clear();
}

/** A file let go of anywhere becomes a frame; on a study's page, one of its frames. */
function takeAnywhere(files: File[]): void {
  const study = route.path.startsWith("/studies/") ? Number(route.params.id) : 0;
  if (files.length) send(study ? { kind: "study frame", study } : { kind: "frame" }, files);
}

const carriesFiles = (event: DragEvent) => event.dataTransfer?.types.includes("Files") ?? false;

function dragged(event: DragEvent): void {
  if (event.defaultPrevented || !carriesFiles(event)) {
    over.value = false;
    return;
  }
  event.preventDefault();
  over.value = true;
}

function dragLeft(event: DragEvent): void {
  if (!event.relatedTarget) over.value = false;
}

function dropped(event: DragEvent): void {
  over.value = false;
  if (event.defaultPrevented || !carriesFiles(event)) return;
  event.preventDefault();
  takeAnywhere([...(event.dataTransfer?.files ?? [])]);
}

function pasted(event: ClipboardEvent): void {
  const files = [...(event.clipboardData?.files ?? [])];
  if (files.length) takeAnywhere(files);
}

onMounted(() => {
  if (!props.canEdit) return;
  void takeUp();
  window.addEventListener("dragover", dragged);
  window.addEventListener("dragleave", dragLeft);
  window.addEventListener("drop", dropped);
  window.addEventListener("paste", pasted);
});
onBeforeUnmount(() => {
  window.removeEventListener("dragover", dragged);
  window.removeEventListener("dragleave", dragLeft);
  window.removeEventListener("drop", dropped);
  window.removeEventListener("paste", pasted);
});
</script>

<template>
  <section v-if="sending.length" class="tray rule-below" aria-label="Files on their way">
    <div class="row middle">
      <span role="status">{{ told }}</span>
      <span v-if="coming && left" class="mono soft">{{ left }}</span>
      <v-progress-linear
        class="share flex-0-0"
        :model-value="100 * share"
        aria-label="Share of all bytes that have arrived"
      />
      <TextAction :aria-expanded="open" @click="open = !open">
        {{ open ? "Hide files" : "Show files" }}
      </TextAction>
      <TextAction v-if="!coming" @click="clear">Clear</TextAction>
    </div>
    <div v-if="open" class="each overflow-y-auto mt-2">
      <SendingList :sending="listed" @drop="drop" />
    </div>
  </section>
  <div v-if="over" class="over in-grid" aria-hidden="true">
    <p>
      Drop to add
      {{ route.path.startsWith("/studies/") ? "frames to this study" : "frames to the bench" }}
    </p>
  </div>
</template>

<style scoped>
.tray {
  padding: 7px var(--margin);
  background: var(--sheet);
}
.share {
  width: 180px;
}
.each {
  max-height: 40vh;
}
.over {
  position: fixed;
  inset: 0;
  z-index: 30;
  place-items: center;
  pointer-events: none;
  background: color-mix(in srgb, var(--paper) 82%, transparent);
  border: 2px solid var(--spruce);
  font: 650 22px var(--display);
}
</style>
