// The light a picture is put under, and the plane of it that is shown: what full-depth steps
// become on the screen.
import { BLACK, deepAddress, encode, decode, encodedOf, SPAN, STEPS_OF_ALL } from "./depth";
import { MIDDLE } from "./depth";
import type { Layer } from "./layers";
import { matcherFor, type Tone, type ViewMatch } from "./matching";

export const PLANES = [
  "all",
  "brightness",
  "colour",
  "red",
  "green",
  "blue",
  "octave",
  "noise",
] as const;
export type Plane = (typeof PLANES)[number];
/** Planes that the server makes, since a pixel of them needs its neighbours. */
export const OF_NEIGHBOURS: readonly Plane[] = ["octave", "noise"];
/** Planes about a middle are gained. */
export const GAINED: readonly Plane[] = ["colour", ...OF_NEIGHBOURS];

export const LIFTS = [-3, -2, -1, 0, 1, 2, 3, 4, 5, 6] as const;
export const SHADOWS = [1, 1.5, 2, 3] as const;
export const GAINS = [1, 2, 4, 8, 16, 32] as const;

export interface Light {
  /** EV. */
  lift: number;
  /** Gamma by which shadows are opened; 1 leaves them. */
  shadows: number;
  plane: Plane;
  /** Of planes about a middle. */
  gain: number;
  match: ViewMatch;
  /** Parts that are cut off are marked. */
  clipped: boolean;
  /** Colours beyond sRGB are marked. */
  beyond: boolean;
}

export const AS_MADE: Light = {
  lift: 0,
  shadows: 1,
  plane: "all",
  gain: 2,
  match: "none",
  clipped: false,
  beyond: false,
};

/** Where planes about 0 have their 0 on the screen: L* 50. */
export const MID = 119;
// ITU-R BT.709-6.
const LUMA = [0.2126, 0.7152, 0.0722] as const;
/** Marks: at the top, at the bottom, beyond sRGB. */
export const MARKS = { top: [200, 30, 30], bottom: [30, 60, 200], beyond: [190, 40, 190] } as const;
// A step either way is rounding.
const WHITE_FROM = BLACK + SPAN - 1;
const BLACK_TO = BLACK + 1;
/** How far beyond 0..1 a colour must lie to be told: half an 8-bit level. */
const BEYOND = Math.round(SPAN / 510);

/** Screen values (0..255, not rounded) of all steps under a light. */
export function curveOf(light: Light, tone: Tone | null | undefined): Float32Array {
  const matched = matcherFor(light.match, tone);
  const gain = 2 ** light.lift;
  const curve = new Float32Array(STEPS_OF_ALL);
  for (let step = 0; step < STEPS_OF_ALL; step++) {
    let v = encodedOf(step);
    if (matched) v = matched(v);
    if (light.lift) v = encode(decode(v) * gain);
    if (light.shadows !== 1) v = Math.sign(v) * Math.abs(v) ** (1 / light.shadows);
    curve[step] = 255 * v;
  }
  return curve;
}

const MOST_CURVES = 32; // of 256 kB each
const curves = new Map<string, Float32Array>();

/** Worked out once for all that stands under one light: a wall has hundreds of crops. */
function keptCurve(light: Light, tone: Tone | null | undefined): Float32Array {
  const key = JSON.stringify([light.lift, light.shadows, tone ? [light.match, tone] : null]);
  const curve = curves.get(key) ?? curveOf(light, tone);
  curves.delete(key);
  curves.set(key, curve);
  const oldest = curves.keys().next().value;
  if (curves.size > MOST_CURVES && oldest !== undefined) curves.delete(oldest);
  return curve;
}

/** The layer that shows a picture under a light; none where that is the picture as made. */
export function lightLayer(
  picture: number,
  light: Light,
  tone: Tone | null | undefined,
): Layer | null {
  const matched = matcherFor(light.match, tone) !== null;
  const asMade =
    !light.lift && light.shadows === 1 && light.plane === "all" && !light.clipped && !light.beyond;
  if (asMade && !matched) return null;
  const byNeighbours = OF_NEIGHBOURS.includes(light.plane);
  const lit = (): Float32Array => keptCurve(light, matched ? tone : null);
  return {
    key: JSON.stringify([light, matched ? tone : null]),
    planes: 3,
    wholeTiles: byNeighbours,
    address: (level, column, row) =>
      deepAddress(picture, level, column, row, byNeighbours ? light.plane : "all"),
    paint: (steps, count, out) => {
      if (byNeighbours) paintApart(steps, count, out, light.gain);
      else paintLit(steps, count, out, lit(), light);
      if (!byNeighbours && light.clipped) markClipped(steps, count, out);
      if (!byNeighbours && light.beyond) markBeyond(steps, count, out);
    },
  };
}

function paintLit(
  steps: Uint16Array,
  count: number,
  out: Uint8ClampedArray,
  curve: Float32Array,
  light: Light,
): void {
  if (light.plane === "all") return paintAll(steps, count, out, curve);
  const only = { red: 0, green: 1, blue: 2 }[light.plane as string];
  for (let i = 0, o = 0; i < count; i++, o += 4) {
    const r = curve[steps[i] as number] as number;
    const g = curve[steps[i + count] as number] as number;
    const b = curve[steps[i + 2 * count] as number] as number;
    const y = LUMA[0] * r + LUMA[1] * g + LUMA[2] * b;
    if (light.plane === "colour") {
      out[o] = MID + light.gain * (r - y);
      out[o + 1] = MID + light.gain * (g - y);
      out[o + 2] = MID + light.gain * (b - y);
    } else {
      const v = only === undefined ? y : only === 0 ? r : only === 1 ? g : b;
      out[o] = out[o + 1] = out[o + 2] = v;
    }
    out[o + 3] = 255;
  }
}

function paintAll(
  steps: Uint16Array,
  count: number,
  out: Uint8ClampedArray,
  curve: Float32Array,
): void {
  for (let i = 0, o = 0; i < count; i++, o += 4) {
    out[o] = curve[steps[i] as number] as number;
    out[o + 1] = curve[steps[i + count] as number] as number;
    out[o + 2] = curve[steps[i + 2 * count] as number] as number;
    out[o + 3] = 255;
  }
}

/** Planes about 0. */
function paintApart(steps: Uint16Array, count: number, out: Uint8ClampedArray, gain: number): void {
  const scale = (255 * gain) / SPAN;
  for (let c = 0; c < 3; c++)
    for (let i = 0, o = c; i < count; i++, o += 4)
      out[o] = MID + scale * ((steps[i + c * count] as number) - MIDDLE);
  for (let o = 3; o < 4 * count; o += 4) out[o] = 255;
}

function mark(out: Uint8ClampedArray, pixel: number, [r, g, b]: readonly number[]): void {
  out[4 * pixel] = r ?? 0;
  out[4 * pixel + 1] = g ?? 0;
  out[4 * pixel + 2] = b ?? 0;
}

function markClipped(steps: Uint16Array, count: number, out: Uint8ClampedArray): void {
  for (let i = 0; i < count; i++) {
    const [r, g, b] = [steps[i] ?? 0, steps[i + count] ?? 0, steps[i + 2 * count] ?? 0];
    if (isAtTop(r, g, b)) mark(out, i, MARKS.top);
    else if (isAtBottom(r, g, b)) mark(out, i, MARKS.bottom);
  }
}

/** Whether a channel is cut off. */
export const isAtTop = (r: number, g: number, b: number): boolean =>
  Math.max(r, g, b) >= WHITE_FROM;
export const isAtBottom = (r: number, g: number, b: number): boolean =>
  Math.min(r, g, b) <= BLACK_TO;

/** Whether a colour lies beyond sRGB. */
export function isBeyond(r: number, g: number, b: number): boolean {
  return Math.max(r, g, b) > BLACK + SPAN + BEYOND || Math.min(r, g, b) < BLACK - BEYOND;
}

function markBeyond(steps: Uint16Array, count: number, out: Uint8ClampedArray): void {
  for (let i = 0; i < count; i++)
    if (isBeyond(steps[i] ?? 0, steps[i + count] ?? 0, steps[i + 2 * count] ?? 0))
      mark(out, i, MARKS.beyond);
}

/** A light in words, as a pane's head tells it; empty as made. */
export function lightWords(light: Light, matched: boolean): string {
  return [
    matched ? `${light.match} matched` : "",
    light.lift ? `${signed(light.lift)} EV` : "",
    light.shadows === 1 ? "" : `shadows γ ${light.shadows}`,
    light.plane === "all" ? "" : PLANE_WORDS[light.plane],
    GAINED.includes(light.plane) ? `× ${light.gain}` : "",
  ]
    .filter(Boolean)
    .join(", ");
}

export const PLANE_WORDS: Record<Plane, string> = {
  all: "all",
  brightness: "brightness alone",
  colour: "colour alone",
  red: "red",
  green: "green",
  blue: "blue",
  octave: "finest octave",
  noise: "noise left",
};

export const signed = (v: number): string => (v < 0 ? `−${-v}` : `+${v}`);
