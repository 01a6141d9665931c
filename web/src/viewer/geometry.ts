// Pure geometry of looking. Frame coordinates are pixels of the unprocessed frame; "zoom" is device
// pixels per frame pixel, so that 1 is 100 % of the subject on any screen.

/**
 * A left-over shift, frame px: a cubic polynomial of the place, as the core's picture.Bend has it.
 */
export interface Bend {
  x: number;
  y: number;
  reach: number;
  across: readonly number[];
  down: readonly number[];
}

export interface Mapping {
  sx: number;
  sy: number;
  dx: number;
  dy: number;
  bend?: Bend | null;
}

export interface View {
  x: number;
  y: number;
  zoom: number;
}

export interface Size {
  width: number;
  height: number;
}

export interface Tile {
  level: number;
  column: number;
  row: number;
  left: number;
  top: number;
  right: number;
  bottom: number;
}

export const IDENTITY: Mapping = { sx: 1, sy: 1, dx: 0, dy: 0 };
export const STEPS = [0.25, 0.5, 1, 2, 4, 8] as const;
export const TILE = 512;

/** The left-over shift at a place of the frame, frame px. */
export function bentBy(bend: Bend, x: number, y: number): { x: number; y: number } {
  const u = (x - bend.x) / bend.reach;
  const v = (y - bend.y) / bend.reach;
  const products = [1, u, v, u * u, u * v, v * v, u ** 3, u * u * v, u * v * v, v ** 3];
  const sum = (coefficients: readonly number[]) =>
    products.reduce((total, p, i) => total + p * (coefficients[i] ?? 0), 0);
  return { x: sum(bend.across), y: sum(bend.down) };
}

/** Scale and shift alone, exact at one place of the frame. */
export function mappingAt(mapping: Mapping, x: number, y: number): Mapping {
  if (!mapping.bend) return mapping;
  const moved = bentBy(mapping.bend, x, y);
  const { sx, sy, dx, dy } = mapping;
  return { sx, sy, dx: dx + sx * moved.x, dy: dy + sy * moved.y };
}

/** By how much an output is turned clockwise at a place of the frame, radians. */
export function turnAt(mapping: Mapping, x: number, y: number): number {
  if (!mapping.bend) return 0;
  const [left, right, above, below] = [
    bentBy(mapping.bend, x - 1, y),
    bentBy(mapping.bend, x + 1, y),
    bentBy(mapping.bend, x, y - 1),
    bentBy(mapping.bend, x, y + 1),
  ];
  return (right.y - left.y - (below.x - above.x)) / 4;
}

/** Device pixels per output pixel, across and down. */
export function outputScale(view: View, mapping: Mapping): { kx: number; ky: number } {
  return { kx: view.zoom / mapping.sx, ky: view.zoom / mapping.sy };
}

/** The pyramid level to draw from: the coarsest that still has a pixel for every device pixel. */
export function levelFor(k: number, levels: number): number {
  if (k >= 1) return 0;
  return Math.min(levels - 1, Math.max(0, Math.floor(Math.log2(1 / k) + 1e-6)));
}

/** Where the output's corner lies on the canvas, in device pixels. */
export function origin(view: View, mapping: Mapping, canvas: Size): { left: number; top: number } {
  const { kx, ky } = outputScale(view, mapping);
  return {
    left: canvas.width / 2 - (mapping.sx * view.x + mapping.dx) * kx,
    top: canvas.height / 2 - (mapping.sy * view.y + mapping.dy) * ky,
  };
}

/** Tiles of one level that the canvas shows, with their edges rounded so that neighbours meet. */
export function tilesInView(
  view: View,
  mapping: Mapping,
  picture: Size,
  canvas: Size,
  level: number,
): Tile[] {
  const { kx, ky } = outputScale(view, mapping);
  const { left, top } = origin(view, mapping, canvas);
  const span = TILE * 2 ** level;
  const across = range(-left / kx, (canvas.width - left) / kx, picture.width, span);
  const down = range(-top / ky, (canvas.height - top) / ky, picture.height, span);
  const tiles: Tile[] = [];
  for (let row = down.first; row <= down.last; row++) {
    for (let column = across.first; column <= across.last; column++) {
      tiles.push({
        level,
        column,
        row,
        left: Math.round(left + column * span * kx),
        top: Math.round(top + row * span * ky),
        right: Math.round(left + Math.min((column + 1) * span, picture.width) * kx),
        bottom: Math.round(top + Math.min((row + 1) * span, picture.height) * ky),
      });
    }
  }
  return tiles;
}

function range(
  from: number,
  to: number,
  size: number,
  span: number,
): { first: number; last: number } {
  return {
    first: Math.max(0, Math.floor(from / span)),
    last: Math.min(Math.ceil(size / span) - 1, Math.floor((to - 1e-9) / span)),
  };
}

/** A canvas point (device pixels) in frame coordinates. */
export function toFrame(view: View, canvas: Size, x: number, y: number): { x: number; y: number } {
  return {
    x: view.x + (x - canvas.width / 2) / view.zoom,
    y: view.y + (y - canvas.height / 2) / view.zoom,
  };
}

/** A place of the frame on the canvas, device pixels. */
export function toCanvas(view: View, canvas: Size, x: number, y: number): { x: number; y: number } {
  return {
    x: (x - view.x) * view.zoom + canvas.width / 2,
    y: (y - view.y) * view.zoom + canvas.height / 2,
  };
}

/** Another zoom that keeps the frame point under (x, y) in its place. */
export function zoomAt(view: View, canvas: Size, x: number, y: number, zoom: number): View {
  const at = toFrame(view, canvas, x, y);
  return {
    x: at.x - (x - canvas.width / 2) / zoom,
    y: at.y - (y - canvas.height / 2) / zoom,
    zoom,
  };
}

/** The next step of magnification, up or down. */
export function nextStep(zoom: number, direction: 1 | -1): number {
  const steps =
    direction > 0 ? STEPS.filter((s) => s > zoom * 1.001) : STEPS.filter((s) => s < zoom * 0.999);
  return (direction > 0 ? steps[0] : steps.at(-1)) ?? zoom;
}

/** The view that shows a whole frame. */
export function wholeView(frame: Size, canvas: Size): View {
  const zoom = Math.min(canvas.width / frame.width, canvas.height / frame.height);
  return { x: frame.width / 2, y: frame.height / 2, zoom };
}

/** A share as a reviewer reads it: three figures at most. */
export function percent(share: number): string {
  return `${Number((100 * share).toPrecision(3))} %`;
}

/** Both magnifications in words, told once where they are the same. */
export function magnifications(view: View, mapping: Mapping, of = "output"): string {
  const { kx } = outputScale(view, mapping);
  if (percent(kx) === percent(view.zoom)) return `${percent(kx)}, ${of} = frame`;
  return `${percent(kx)} of ${of} = ${percent(view.zoom)} of frame`;
}

/** A view moved as little as it takes for a canvas to show picture up to its edges; in the middle
 * where the picture is smaller. */
export function inside(view: View, picture: Size, canvas: Size): View {
  const held = (at: number, size: number, room: number): number => {
    const half = room / 2 / view.zoom;
    return 2 * half >= size ? size / 2 : Math.min(Math.max(at, half), size - half);
  };
  return {
    x: held(view.x, picture.width, canvas.width),
    y: held(view.y, picture.height, canvas.height),
    zoom: view.zoom,
  };
}

/** The view at which an output's own pixels have the zoom that the subject has in another. */
export function atOwnPixels(view: View, mapping: Mapping): View {
  return { ...view, zoom: view.zoom * mapping.sx };
}
