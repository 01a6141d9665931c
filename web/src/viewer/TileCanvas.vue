<script setup lang="ts">
// One picture drawn at a view of its frame: lossless tiles, pixels stay pixels above 100 %.
import { computed, onBeforeUnmount, onMounted, ref, useTemplateRef, watch } from "vue";

import {
  IDENTITY,
  levelFor,
  type Mapping,
  mappingAt,
  outputScale,
  type Size,
  type Tile,
  tilesInView,
  turnAt,
  type View,
} from "./geometry";
import { type Layer, layerTile } from "./layers";
import { tile } from "./tiles";

export interface Shown extends Size {
  id: number;
  levels: number;
  /** Where its tiles are, if not among the pictures'. */
  tiles?: string;
}

const props = defineProps<{
  picture: Shown;
  mapping?: Mapping | null;
  view: View;
  label: string;
  /** What is drawn instead of the picture as made. */
  layer?: Layer | null;
}>();
/** Each time when all that is in view was drawn, from which level. */
const emit = defineEmits<{ drawn: [level: number] }>();

const canvas = useTemplateRef<HTMLCanvasElement>("canvas");
const complete = ref(false);
const place = computed(() => props.picture.tiles ?? `/api/pictures/${props.picture.id}/tiles`);
const whole = computed(() => props.mapping ?? IDENTITY);
// Exact at the middle of the view: a bent output shows the same detail there, and a turned one
// upright.
const mapping = computed(() => mappingAt(whole.value, props.view.x, props.view.y));
const OPAQUE: CanvasRenderingContext2DSettings = {
  alpha: false,
  willReadFrequently: true,
  colorSpace: "srgb",
};
/** Painted tiles of what is shown, and of what is being drawn. */
let held = new Map<string, CanvasImageSource>();
let wanted = new Map<string, CanvasImageSource>();
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
  pen.resetTransform();
  pen.fillRect(0, 0, element.width, element.height);
  const margin = straighten(pen, element);
  const room = { width: element.width + 2 * margin, height: element.height + 2 * margin };
  const { kx } = outputScale(props.view, mapping.value);
  const level = levelFor(kx, props.picture.levels);
  pen.imageSmoothingEnabled = kx * 2 ** level < 1;
  pen.imageSmoothingQuality = "high";
  const tiles = tilesInView(props.view, mapping.value, props.picture, room, level);
  const found = tiles.map((t) => [t, drawable(t)] as const);
  complete.value = found.every(([, image]) => image);
  // While finer tiles are on their way, the one coarsest tile stands in.
  if (!complete.value) standIn(pen, room);
  for (const [t, image] of found) if (image) put(pen, t, image);
  pen.resetTransform();
  [held, wanted] = [wanted, new Map()];
  if (complete.value) emit("drawn", level);
}

function drawable(t: Tile): CanvasImageSource | undefined {
  const { layer } = props;
  if (!layer) return asMade(t);
  // What this canvas shows stays with it: many canvases together may show more than is kept.
  const key = `${layer.address(t.level, t.column, t.row)} ${layer.key}`;
  const image = held.get(key) ?? layerTile(layer, props.picture, t, schedule);
  if (image) wanted.set(key, image);
  return image;
}

const asMade = (t: Tile): ImageBitmap | undefined =>
  tile(`${place.value}/${t.level}/${t.column}_${t.row}.png`, schedule);

function put(pen: CanvasRenderingContext2D, t: Tile, image: CanvasImageSource): void {
  pen.drawImage(image, t.left, t.top, t.right - t.left, t.bottom - t.top);
}

/**
 * Turn the canvas so that a turned output stands upright; returns how far its corners then reach
 * beyond it.
 */
function straighten(pen: CanvasRenderingContext2D, { width, height }: Size): number {
  const turn = turnAt(whole.value, props.view.x, props.view.y);
  const reach = (Math.abs(turn) * Math.max(width, height)) / 2;
  if (reach < 0.5) return 0;
  const margin = Math.ceil(reach) + 1;
  pen.translate(width / 2, height / 2);
  pen.rotate(-turn);
  pen.translate(-width / 2 - margin, -height / 2 - margin);
  return margin;
}

function standIn(pen: CanvasRenderingContext2D, size: Size): void {
  const coarsest = props.picture.levels - 1;
  for (const t of tilesInView(props.view, mapping.value, props.picture, size, coarsest)) {
    const image = drawable(t) ?? (props.layer?.planes === 1 ? undefined : asMade(t));
    if (image) put(pen, t, image);
  }
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
