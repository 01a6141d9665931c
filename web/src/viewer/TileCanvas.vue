<script setup lang="ts">
// A canvas that shows one picture at a view of its frame, drawn anew as tiles come.
import { computed, onBeforeUnmount, onMounted, ref, useTemplateRef, watch } from "vue";

import { askAhead, drawInto, type Shown, tileAddress } from "./drawing";
import { IDENTITY, type Mapping, type View } from "./geometry";
import type { Layer } from "./layers";

const props = defineProps<{
  picture: Shown;
  mapping?: Mapping | null;
  view: View;
  label: string;
  /** What is drawn instead of the picture as made. */
  layer?: Layer | null;
  /** What lies about the view is asked for once all in view is there. */
  ahead?: boolean;
}>();
/** Each time when all that is in view was drawn, from which level. */
const emit = defineEmits<{ drawn: [level: number] }>();

const canvas = useTemplateRef<HTMLCanvasElement>("canvas");
const complete = ref(false);
const place = computed(() => tileAddress(props.picture, 0, 0, 0));
const OPAQUE: CanvasRenderingContext2DSettings = {
  alpha: false,
  willReadFrequently: true,
  colorSpace: "srgb",
};
/** What this canvas shows stays with it: many together may show more than is kept. */
let held: ReadonlyMap<string, CanvasImageSource> = new Map();
let frame = 0;
let observer: ResizeObserver | undefined;
let sight: IntersectionObserver | undefined;
// A long wall holds many canvases; only those in sight, or nearly, ask for tiles.
let inSight = false;

function schedule(): void {
  if (!frame && inSight) frame = requestAnimationFrame(draw);
}

function draw(): void {
  frame = 0;
  const element = canvas.value;
  const pen = element?.getContext("2d", OPAQUE);
  if (!element || !pen || element.width === 0) return;
  pen.fillStyle = getComputedStyle(element).getPropertyValue("--surround") || "#777777";
  pen.fillRect(0, 0, element.width, element.height);
  const { picture, view, layer = null, mapping } = props;
  const drawing = { picture, view, layer, mapping: mapping ?? IDENTITY };
  const drawn = drawInto(pen, element, drawing, held, schedule);
  complete.value = drawn.complete;
  held = drawn.used;
  if (!drawn.complete) return;
  emit("drawn", drawn.level);
  if (props.ahead) askAhead(element, drawing);
}

function resize(): void {
  const element = canvas.value;
  if (!element) return;
  const ratio = window.devicePixelRatio || 1;
  const width = Math.round(element.clientWidth * ratio);
  const height = Math.round(element.clientHeight * ratio);
  if (element.width !== width || element.height !== height) {
    element.width = width;
    element.height = height;
  }
  schedule();
}

/** Mean 8-bit codes of a square of device pixels around a canvas point. */
function codesAt(x: number, y: number, side = 5): [number, number, number] | null {
  const pen = canvas.value?.getContext("2d");
  if (!pen) return null;
  const data = pen.getImageData(
    Math.round(x - side / 2),
    Math.round(y - side / 2),
    side,
    side,
  ).data;
  const sums: [number, number, number] = [0, 0, 0];
  for (let i = 0; i < data.length; i += 4)
    for (const c of [0, 1, 2] as const) sums[c] += data[i + c] ?? 0;
  return sums.map((s) => s / (side * side)) as [number, number, number];
}

defineExpose({ codesAt });
watch(
  () => [
    place.value,
    props.layer?.key,
    props.layer?.address(0, 0, 0),
    props.mapping,
    props.view.x,
    props.view.y,
    props.view.zoom,
  ],
  schedule,
);
onMounted(() => {
  observer = new ResizeObserver(resize);
  sight = new IntersectionObserver(
    (entries) => {
      inSight = entries.at(-1)?.isIntersecting ?? false;
      schedule();
    },
    { rootMargin: "250px" },
  );
  if (canvas.value) {
    observer.observe(canvas.value);
    sight.observe(canvas.value);
  }
  resize();
});
onBeforeUnmount(() => {
  observer?.disconnect();
  sight?.disconnect();
  cancelAnimationFrame(frame);
  // Its memory goes now, not when the browser next clears up.
  if (canvas.value) canvas.value.width = 0;
});
</script>

<template>
  <canvas
    ref="canvas"
    class="tiles d-block w-100 h-100 on-surround"
    role="img"
    :aria-label="label"
    :data-complete="complete"
  />
</template>
