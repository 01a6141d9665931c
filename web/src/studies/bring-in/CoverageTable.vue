<script setup lang="ts">
// Every cell's true state: contenders down, frames across. A cell opens all that is known of it.
import { onBeforeUnmount, useTemplateRef, watch } from "vue";

import type { Contender, Covered, Frame } from "@/api/types";
import type { CellPlace } from "./mutations";
import type { Runs } from "./useRuns";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { lasting } from "@/shared/lib/words";
import LetterBox from "@/shared/ui/LetterBox.vue";

const props = defineProps<{ runs: Runs }>();
const emit = defineEmits<{ open: [contender: Contender, frame: Frame] }>();
const { study, treatments, canEdit } = useStudyContext();
const area = useTemplateRef<HTMLElement>("area");

/** Grey for what is not there yet, red for what is not to be trusted. */
function look(cell: Covered | undefined): string {
  if (cell?.out_of_date || cell?.state === "failed") return "rowan";
  if (cell?.state === "running") return "on-the-way mono";
  return cell?.state === "made" ? "" : "soft";
}

function told(cell: Covered | undefined): string {
  if (!cell) return "…";
  if (cell.state === "running") return `${Math.round(100 * cell.progress)} %`;
  if (cell.state === "made" && cell.out_of_date) return "made, out of date";
  if (cell.state === "made" && cell.why) return "made, then failed";
  if (cell.state === "missing" && cell.by_hand) return "to be added";
  return cell.state;
}

const title = (cell: Covered | undefined): string =>
  [cell?.why, cell?.out_of_date, cell?.doing, cell?.state === "missing" ? cell.by_hand : ""]
    .filter(Boolean)
    .join(". ");

/** The waiting cells that can be seen on the screen now. */
function inView(): CellPlace[] {
  const buttons = [...(area.value?.querySelectorAll<HTMLElement>("button[data-waiting]") ?? [])];
  return buttons
    .filter((b) => {
      const r = b.getBoundingClientRect();
      return (
        r.bottom > 0 && r.top < window.innerHeight && r.right > 0 && r.left < window.innerWidth
      );
    })
    .map((b) => ({ contender: Number(b.dataset.contender), frame: Number(b.dataset.frame) }));
}

let timer = 0;
/** Once scrolling has come to rest: what is looked at is made first. */
function settle(): void {
  window.clearTimeout(timer);
  timer = window.setTimeout(() => {
    const places = inView();
    const waiting = props.runs.count("waiting");
    if (canEdit.value && places.length && places.length < waiting) void props.runs.front(places);
  }, 900);
}
window.addEventListener("scroll", settle, { passive: true });
watch(() => props.runs.count("waiting") > 0, settle);
onBeforeUnmount(() => {
  window.removeEventListener("scroll", settle);
  window.clearTimeout(timer);
});
</script>

<template>
  <div
    ref="area"
    style="--above: 260px"
    class="scroll"
    tabindex="0"
    role="region"
    aria-label="Coverage"
    @scroll.passive="settle"
  >
    <v-table>
      <thead>
        <tr>
          <th scope="col">Contender</th>
          <th v-for="f in study.frames" :key="f.id" scope="col">{{ f.name }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="c in treatments" :key="c.id">
          <th scope="row" style="min-width: 280px; max-width: 460px">
            <span class="d-flex ga-2 align-start"
              ><LetterBox :letter="c.letter" /><span
                >{{ c.title }} <span class="soft">{{ c.manner }}</span></span
              ></span
            >
          </th>
          <td v-for="f in study.frames" :key="f.id">
            <TextAction
              class="quiet-act small w-100 position-relative"
              :class="look(runs.covered(c.id, f.id))"
              :aria-label="
                [
                  `${c.letter} on ${f.name}: ${told(runs.covered(c.id, f.id))}`,
                  title(runs.covered(c.id, f.id)),
                ]
                  .filter(Boolean)
                  .join('. ')
              "
              :data-waiting="runs.covered(c.id, f.id)?.state === 'waiting' || undefined"
              :data-contender="c.id"
              :data-frame="f.id"
              @click="emit('open', c, f)"
            >
              {{ told(runs.covered(c.id, f.id)) }}
              <span
                v-if="runs.covered(c.id, f.id)?.state === 'running'"
                class="bar position-absolute"
                :style="{ width: `${100 * (runs.covered(c.id, f.id)?.progress ?? 0)}%` }"
              />
            </TextAction>
          </td>
        </tr>
      </tbody>
    </v-table>
  </div>
  <p v-if="runs.coverage.value?.seconds_left" class="visually-hidden" role="status">
    About {{ lasting(runs.coverage.value.seconds_left) }} of work left.
  </p>
</template>

<style scoped>
.bar {
  left: 0;
  bottom: 2px;
  height: 2px;
  background: var(--spruce);
}
</style>
