<script setup lang="ts">
import { computed, ref, shallowRef, useTemplateRef, watch } from "vue";

import type { Contender, Remark } from "@/api/types";
import { type Numbers, numbersInView } from "@/viewer/differences";
import { toFrame, type View } from "@/viewer/geometry";
import TileCanvas from "@/viewer/TileCanvas.vue";
import { deepAddress } from "@/viewer/depth";
import { type Marked, markedInView } from "@/viewer/marks";
import { steps } from "@/viewer/tiles";
import { usePanZoom } from "@/viewer/usePanZoom";
import { named } from "@/shared/lib/words";
import type { NamedCall } from "@/studies/shared/namedCalls";
import type { ShownPane } from "./viewPicture";
import LookFoot from "./LookFoot.vue";
import LookHead from "./LookHead.vue";
import LookLine from "./LookLine.vue";
import LookLoupe from "./LookLoupe.vue";
import type { Look, Pane } from "./useLook";
import LookSpots from "./LookSpots.vue";
import { usePane } from "./usePane";
import type { Readout } from "./useReadout";
import type { Remarking } from "./useRemarking";
import type { LookSeeing } from "./useSeeing";

const props = defineProps<{
  look: Look;
  readout: Readout;
  seeing: LookSeeing;
  pane: Pane;
  index: number;
  remarking: Remarking;
  choices: readonly Contender[];
  /** Calls of this patch with names seen. */
  calls: readonly NamedCall[];
}>();
const emit = defineEmits<{
  remark: [remark: Remark];
  spot: [id: number | undefined];
  /** All that is in view was drawn. */
  drawn: [];
  point: [view: View, x: number, y: number, size: { width: number; height: number }];
}>();
const ground = useTemplateRef<HTMLElement>("ground");
const { other, drawn, under, difference, drawnView, light, magnification, inUse, told, why } =
  usePane(props.look, props.seeing, () => props.pane);
const view = computed(() => props.look.view.value);
const frame = computed(() => props.look.frame.value?.picture);

const numbers = shallowRef<Numbers>();
const level = ref(0);
/** Numbers of the part in view, once all of it was drawn. */
function tell(drawn: number): void {
  emit("drawn");
  const [shown, picture] = [difference.value, frame.value];
  if (!shown || !picture) return;
  level.value = drawn;
  numbers.value = numbersInView(
    props.look.arranged.kind,
    view.value,
    picture,
    canvas.value,
    drawn,
    (t) => steps(shown.address(t.level, t.column, t.row), () => undefined),
  );
}
const marked = shallowRef<Marked>();
/** How much of what is in view is marked, where marks are asked for. */
function count(level: number): void {
  emit("drawn");
  const { clipped, beyond, plane } = props.look.light;
  const of = drawn.value;
  marked.value =
    of?.layer && (clipped || beyond) && plane === "all"
      ? markedInView(of, canvas.value, level, (t) =>
          steps(deepAddress(of.picture.id, t.level, t.column, t.row), () => undefined),
        )
      : undefined;
}
watch(
  () => difference.value?.address(0, 0, 0),
  () => (numbers.value = undefined),
);

/** Device pixels of the shared view for one of this pane's. */
const share = (): number => view.value.zoom / drawnView.value.zoom;
/** Where a line that is drawn begins, frame px. */
let begun = { x: 0, y: 0 };
const { canvas, wheel, on } = usePanZoom(ground, {
  pan: (dx, dy) => props.look.pan(dx * share(), dy * share()),
  // The place under the pointer stays there in this pane, whatever it is magnified by.
  zoom: (direction, x = canvas.value.width / 2, y = canvas.value.height / 2) => {
    const [cx, cy] = [canvas.value.width / 2, canvas.value.height / 2];
    props.look.zoom(direction, cx + (x - cx) * share(), cy + (y - cy) * share());
  },
  draws: (x, y) => {
    begun = toFrame(drawnView.value, canvas.value, x, y);
    return props.look.line.value !== undefined;
  },
  drawn: (x, y) => props.look.drawLine(begun, toFrame(drawnView.value, canvas.value, x, y)),
  click: (x, y) => {
    const at = toFrame(drawnView.value, canvas.value, x, y);
    props.remarking.place(at.x, at.y, props.pane.contender.id);
  },
  hover: (x, y) => {
    if (under.value) props.look.divide(x / Math.max(1, canvas.value.width));
    emit("point", drawnView.value, x, y, canvas.value);
  },
});

function choose(): void {
  if (!props.look.inOneRoom.value) props.look.choose(props.index);
}

function show(letter: string): void {
  choose();
  props.look.show(letter);
}

/** What a picture of the view needs of this pane. */
function shown(): ShownPane | undefined {
  const box = ground.value?.getBoundingClientRect();
  // Without the loupe's.
  const own = ":scope > canvas, :scope > .under > canvas";
  const canvases = [...(ground.value?.querySelectorAll<HTMLCanvasElement>(own) ?? [])];
  if (!box || !canvases.length) return undefined;
  const { letter } = props.pane.contender;
  const joint = difference.value ? "less" : "|";
  const { left, top } = box;
  return {
    letter,
    title: `${named(props.pane.contender)}${other.value ? ` ${joint} ${other.value.contender.letter}` : ""}`,
    line: [magnification.value, light.value, inUse.value].filter(Boolean).join(", "),
    left,
    top,
    canvases: canvases.map((canvas, i) => ({ canvas, from: i ? props.look.boundary.value : 0 })),
  };
}
defineExpose({ shown });
</script>

<template>
  <section
    class="pane in-grid shrinks"
    :class="{ active: index === look.active.value }"
    :aria-label="`Pane with ${pane.contender.letter}`"
    tabindex="0"
    @focusin="choose"
  >
    <LookHead
      :contender="pane.contender"
      :other="other?.contender"
      :joint="difference ? 'less' : '|'"
      :choices="choices"
      :magnification="magnification"
      :light="light"
      :calls="calls"
      :pinned="look.pinned.value === index"
      @show="show"
      @pin="look.pin(index)"
    />
    <LookSpots
      v-if="remarking.any.value"
      :remarks="remarking.of(pane.contender.id)"
      :view="drawnView"
      :canvas="canvas"
      :shown="remarking.held.value ? 'all' : remarking.pointed.value"
      @open="emit('remark', $event)"
      @point="emit('spot', $event)"
    />
    <div
      ref="ground"
      class="ground on-surround cursor-grab still shrinks position-relative"
      v-on="on"
      @pointerdown="choose"
      @wheel.prevent="wheel"
    >
      <TileCanvas
        v-if="difference && frame"
        :picture="frame"
        :view="view"
        :layer="difference"
        ahead
        :label="`Difference of ${pane.contender.letter} from ${look.arranged.against}`"
        @drawn="tell"
      />
      <TileCanvas
        v-else-if="drawn"
        v-bind="drawn"
        ahead
        :label="`${look.patch.value?.name ?? 'frame'} of ${pane.contender.letter}`"
        @drawn="count"
      />
      <p v-else class="none text-center">{{ why }}</p>
      <div
        v-if="under"
        class="under position-absolute"
        :style="{ clipPath: `inset(0 0 0 ${100 * look.boundary.value}%)` }"
      >
        <TileCanvas
          v-bind="under"
          ahead
          :label="`${look.patch.value?.name ?? 'frame'} of ${look.arranged.against}`"
        />
      </div>
      <LookLine v-if="look.line.value" :line="look.line.value" :view="drawnView" :canvas="canvas" />
      <LookLoupe
        v-if="look.loupe.value && drawn && readout.spot.value"
        :drawn="drawn"
        :spot="readout.spot.value"
        :letter="pane.contender.letter"
      />
    </div>
    <LookFoot
      :sample="readout.sample(pane)"
      :reference="
        look.arranged.against === pane.contender.letter
          ? undefined
          : readout.sample(look.against.value)
      "
      :against="look.arranged.against"
      :unit="readout.asked.unit"
      :of-use="told"
      :marked="marked"
      :marks="look.light"
      :difference="
        difference && {
          kind: look.arranged.kind,
          gain: look.arranged.gain,
          numbers,
          share: 2 ** level,
        }
      "
    />
  </section>
</template>

<style scoped>
.pane {
  grid-template-rows: 60px auto minmax(0, 1fr) 26px;
  border-right: 1px solid var(--ink);
  border-bottom: 1px solid var(--ink);
  min-height: 0;
  background: var(--paper);
}
/* Whether there is a margin or not. */
.pane > .ground {
  grid-row: 3;
}
.pane > footer {
  grid-row: 4;
}
.active > :first-child {
  box-shadow: inset 0 2px 0 var(--ink);
}
.under {
  inset: 0;
}
.none {
  background: var(--paper);
  color: var(--ink);
  padding: 40px 24px;
}
</style>
