<script setup lang="ts">
// One picture drawn at a view of its frame: lossless tiles, pixels stay pixels above 100 %.
import { computed, onBeforeUnmount, onMounted, ref, useTemplateRef, watch } from "vue";

import { IDENTITY, levelFor, type Mapping, outputScale, type Size, tilesInView, type View } from "./geometry";
import { tile } from "./tiles";

interface Shown extends Size {
  id: number;
  levels: number;
}

const props = defineProps<{ picture: Shown; mapping?: Mapping | null; view: View; label: string }>();

const canvas = useTemplateRef<HTMLCanvasElement>("canvas");
const complete = ref(false);
const mapping = computed(() => props.mapping ?? IDENTITY);
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
  const pen = element?.getContext("2d", { alpha: false });
  if (!element || !pen || element.width === 0) return;
  pen.fillStyle = getComputedStyle(element).getPropertyValue("--surround") || "#777777";
  pen.fillRect(0, 0, element.width, element.height);
  const { kx } = outputScale(props.view, mapping.value);
  const level = levelFor(kx, props.picture.levels);
  pen.imageSmoothingEnabled = kx * 2 ** level < 1;
  pen.imageSmoothingQuality = "high";
  const wanted = tilesInView(props.view, mapping.value, props.picture, element, level);
  const found = wanted.map((t) => [t, tile(address(t.level, t.column, t.row), schedule)] as const);
  complete.value = found.every(([, bitmap]) => bitmap);
  // While finer tiles are on their way, the one coarsest tile stands in.
  if (!complete.value) drawLevel(pen, element, props.picture.levels - 1);
  for (const [t, bitmap] of found) {
    if (bitmap) pen.drawImage(bitmap, t.left, t.top, t.right - t.left, t.bottom - t.top);
  }
}

function drawLevel(pen: CanvasRenderingContext2D, size: Size, level: number): void {
  for (const t of tilesInView(props.view, mapping.value, props.picture, size, level)) {
    const bitmap = tile(address(t.level, t.column, t.row), schedule);
    if (bitmap) pen.drawImage(bitmap, t.left, t.top, t.right - t.left, t.bottom - t.top);
  }
}

function address(level: number, column: number, row: number): string {
  return `/api/pictures/${props.picture.id}/tiles/${level}/${column}_${row}.png`;
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
  const data = pen.getImageData(Math.round(x - side / 2), Math.round(y - side / 2), side, side).data;
  const sums: [number, number, number] = [0, 0, 0];
  for (let i = 0; i < data.length; i += 4) for (const c of [0, 1, 2] as const) sums[c] += data[i + c] ?? 0;
  return sums.map((s) => s / (side * side)) as [number, number, number];
}

defineExpose({ codesAt });
watch(() => [props.picture.id, props.mapping, props.view.x, props.view.y, props.view.zoom], schedule);
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
  <canvas ref="canvas" class="tiles" role="img" :aria-label="label" :data-complete="complete" />
</template>

<style scoped>
.tiles {
  display: block;
  width: 100%;
  height: 100%;
  background: var(--surround);
}
</style>
