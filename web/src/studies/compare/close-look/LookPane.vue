<script setup lang="ts">
import { computed, ref, shallowRef, useTemplateRef, watch } from "vue";

import type { Contender, Remark } from "@/api/types";
import { differenceLayer, type Numbers, numbersInView } from "@/viewer/differences";
import { atOwnPixels, IDENTITY, magnifications, toFrame, type View } from "@/viewer/geometry";
import { lightLayer, lightWords } from "@/viewer/light";
import { matcherFor } from "@/viewer/matching";
import TileCanvas from "@/viewer/TileCanvas.vue";
import { steps } from "@/viewer/tiles";
import { usePanZoom } from "@/viewer/usePanZoom";
import { named } from "@/shared/lib/words";
import type { ShownPane } from "./viewPicture";
import LookFoot from "./LookFoot.vue";
import LookHead from "./LookHead.vue";
import type { Look, Pane } from "./useLook";
import LookSpots from "./LookSpots.vue";
import type { Readout } from "./useReadout";
import type { Remarking } from "./useRemarking";

const props = defineProps<{
  look: Look;
  readout: Readout;
  pane: Pane;
  index: number;
  remarking: Remarking;
  choices: readonly Contender[];
}>();
const emit = defineEmits<{
  remark: [remark: Remark];
  spot: [id: number | undefined];
  point: [view: View, x: number, y: number, size: { width: number; height: number }];
}>();
const ground = useTemplateRef<HTMLElement>("ground");
const ready = (pane: Pane | undefined) =>
  pane?.output?.state === "ready" && pane.output.picture ? pane.output : undefined;

const output = computed(() => ready(props.pane));
const other = computed(() => {
  const { arrangement, against } = props.look.arranged;
  const joined = arrangement === "reveal" || arrangement === "difference";
  const differs = joined && against !== props.pane.contender.letter;
  return differs ? props.look.against.value : undefined;
});
const under = computed(() =>
  props.look.arranged.arrangement === "reveal" ? ready(other.value) : undefined,
);
const lies = computed(() => output.value?.lineup ?? IDENTITY);
const view = computed(() => props.look.view.value);
const seen = computed(() =>
  props.look.scale.value === "subject" ? view.value : atOwnPixels(view.value, lies.value),
);
const layer = computed(() =>
  output.value?.picture
    ? lightLayer(output.value.picture.id, props.look.light, output.value.tone)
    : null,
);
const underLayer = computed(() =>
  under.value?.picture
    ? lightLayer(under.value.picture.id, props.look.light, under.value.tone)
    : null,
);
/** What it differs by, where that is what is shown. */
const difference = computed(() => {
  const [one, two] = [output.value, ready(other.value)];
  const { arrangement, kind, gain } = props.look.arranged;
  if (arrangement !== "difference" || !one || !two) return undefined;
  const lie = JSON.stringify(
    [one.lineup, two.lineup].map((l) => [l?.sx, l?.dx, l?.dy, l?.residual]),
  );
  const { match } = props.look.light;
  return differenceLayer({ one: one.id, two: two.id, kind, gain, match, lie });
});
/** The view that is drawn: a difference lies on the frame's pixels. */
const drawnView = computed(() => (difference.value ? view.value : seen.value));
const frame = computed(() => props.look.frame.value?.picture);
const light = computed(() => {
  const matched = matcherFor(props.look.light.match, output.value?.tone) !== null;
  if (!difference.value) return lightWords(props.look.light, matched);
  return `× ${props.look.arranged.gain}${matched ? `, ${props.look.light.match} matched` : ""}`;
});
const magnification = computed(() => magnifications(drawnView.value, lies.value));
const why = computed(() => {
  const o = props.pane.output;
  if (!o)
    return props.pane.contender.kind === "truth"
      ? "This frame has no truth."
      : "No output of this frame yet.";
  return o.problem || "It is still being taken in and lined up.";
});

const numbers = shallowRef<Numbers>();
const level = ref(0);
/** Numbers of the part in view, once all of it was drawn. */
function tell(drawn: number): void {
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
watch(
  () => difference.value?.address(0, 0, 0),
  () => (numbers.value = undefined),
);

/** Device pixels of the shared view for one of this pane's. */
const share = (): number => view.value.zoom / drawnView.value.zoom;
const { canvas, wheel, on } = usePanZoom(ground, {
  pan: (dx, dy) => props.look.pan(dx * share(), dy * share()),
  // The place under the pointer stays there in this pane, whatever it is magnified by.
  zoom: (direction, x = canvas.value.width / 2, y = canvas.value.height / 2) => {
    const [cx, cy] = [canvas.value.width / 2, canvas.value.height / 2];
    props.look.zoom(direction, cx + (x - cx) * share(), cy + (y - cy) * share());
  },
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
  const canvases = [...(ground.value?.querySelectorAll("canvas") ?? [])];
  if (!box || !canvases.length) return undefined;
  const { letter } = props.pane.contender;
  const joint = difference.value ? "less" : "|";
  const { left, top } = box;
  return {
    letter,
    title: `${named(props.pane.contender)}${other.value ? ` ${joint} ${other.value.contender.letter}` : ""}`,
    line: [magnification.value, light.value].filter(Boolean).join(", "),
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
        :label="`Difference of ${pane.contender.letter} from ${look.arranged.against}`"
        @drawn="tell"
      />
      <TileCanvas
        v-else-if="output?.picture"
        :picture="output.picture"
        :mapping="output.lineup"
        :view="seen"
        :layer="layer"
        :label="`${look.patch.value?.name ?? 'frame'} of ${pane.contender.letter}`"
      />
      <p v-else class="none text-center">{{ why }}</p>
      <div
        v-if="under?.picture"
        class="under position-absolute"
        :style="{ clipPath: `inset(0 0 0 ${100 * look.boundary.value}%)` }"
      >
        <TileCanvas
          :picture="under.picture"
          :mapping="under.lineup"
          :view="
            look.scale.value === 'subject' ? view : atOwnPixels(view, under.lineup ?? IDENTITY)
          "
          :layer="underLayer"
          :label="`${look.patch.value?.name ?? 'frame'} of ${look.arranged.against}`"
        />
      </div>
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
