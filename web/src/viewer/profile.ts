// Values along a line of the frame, from an output's full-depth pixels.
import { encodedOf, pixelAt, type Reader } from "./depth";
import { type Mapping, mappingAt, type Size } from "./geometry";
import type { Triple } from "./lab";

/** Frame px. */
export interface Line {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}

/** Longer ones take more tiles than are kept. */
export const LONGEST = 1600;

export const lengthOf = (l: Line): number => Math.hypot(l.x1 - l.x0, l.y1 - l.y0);

/** A line no longer than can be measured, from the same first end. */
export function held(line: Line): Line {
  const share = Math.min(1, LONGEST / Math.max(1e-9, lengthOf(line)));
  return {
    ...line,
    x1: line.x0 + share * (line.x1 - line.x0),
    y1: line.y0 + share * (line.y1 - line.y0),
  };
}

export const lineTold = (l: Line): string =>
  [l.x0, l.y0, l.x1, l.y1].map((v) => Number(v.toFixed(1))).join(",");

/** A line as an address tells it; none where that makes no sense. */
export function lineFrom(told: string): Line | undefined {
  const [x0, y0, x1, y1, more] = told.split(",").map(Number);
  const all = [x0, y0, x1, y1];
  if (!told || more !== undefined || !all.every((v) => v !== undefined && Number.isFinite(v)))
    return undefined;
  const line = { x0, y0, x1, y1 } as Line;
  return lengthOf(line) >= 1 ? held(line) : undefined;
}

/** How far along it values are told, frame px: one for each pixel of the finest output. */
export function placesOf(line: Line, finest: number): number[] {
  const length = lengthOf(line);
  const count = Math.max(2, Math.ceil(length * Math.max(1, finest)) + 1);
  return Array.from({ length: count }, (_, i) => (length * i) / (count - 1));
}

/** Encoded values at these places of the line; nothing while a tile is missing. */
export function profileOf(
  picture: Size,
  lies: Mapping,
  line: Line,
  places: readonly number[],
  read: Reader,
): (Triple | undefined)[] | undefined {
  const length = lengthOf(line);
  let waiting = false;
  const found = places.map((at) => {
    const x = line.x0 + ((line.x1 - line.x0) * at) / length;
    const y = line.y0 + ((line.y1 - line.y0) * at) / length;
    const m = mappingAt(lies, x, y);
    const value = between(picture, m.sx * x + m.dx, m.sy * y + m.dy, read);
    // All tiles of the line are asked for at once.
    waiting ||= value === "waiting";
    return value === "waiting" ? undefined : value;
  });
  return waiting ? undefined : found;
}

/** Straight between the four pixels about a place; nothing outside of the picture. */
function between(
  picture: Size,
  x: number,
  y: number,
  read: Reader,
): Triple | undefined | "waiting" {
  if (x < 0 || y < 0 || x > picture.width || y > picture.height) return undefined;
  const [u, v] = [x - 0.5, y - 0.5];
  const [left, top] = [Math.floor(u), Math.floor(v)];
  const [across, down] = [u - left, v - top];
  const sum: [number, number, number] = [0, 0, 0];
  for (const [dx, dy, share] of [
    [0, 0, (1 - across) * (1 - down)],
    [1, 0, across * (1 - down)],
    [0, 1, (1 - across) * down],
    [1, 1, across * down],
  ] as const) {
    const px = Math.min(picture.width - 1, Math.max(0, left + dx));
    const py = Math.min(picture.height - 1, Math.max(0, top + dy));
    const pixel = pixelAt(picture, px, py, read);
    if (!pixel) return "waiting";
    for (const c of [0, 1, 2] as const) sum[c] += share * encodedOf(pixel[c]);
  }
  return sum;
}
