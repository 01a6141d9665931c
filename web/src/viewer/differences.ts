// What differs between two outputs of a frame, as the server tells it
// (server.viewing.differences): drawn, and told in numbers for the part in view.
import { type Tile, tilesInView, TILE, type Size, type View, IDENTITY } from "./geometry";
import { tileSize } from "./depth";
import type { Layer } from "./layers";
import { MID } from "./light";
import type { ViewMatch } from "./matching";
import { ramp } from "./ramp";

export const KINDS = ["brightness", "absolute", "de00"] as const;
export type Kind = (typeof KINDS)[number];
export const KIND_WORDS: Record<Kind, string> = {
  brightness: "brightness",
  absolute: "channels",
  de00: "CIEDE2000",
};
/** Where each kind has its 0, and how many steps a unit of it takes. */
export const SCALES: Record<Kind, { zero: number; step: number; unit: string }> = {
  brightness: { zero: 32768, step: 64, unit: "levels" },
  absolute: { zero: 0, step: 128, unit: "levels" },
  de00: { zero: 0, step: 256, unit: "ΔE₀₀" },
};
/** Where one of the two shows nothing. */
export const NONE = 65535;
/** The CIEDE2000 that the scale ends with, at a gain of 1. */
export const DE_TOP = 20;

export interface Difference {
  one: number;
  two: number;
  kind: Kind;
  gain: number;
  match: ViewMatch;
  /** How the two lie: a line-up may be corrected. */
  lie: string;
}

/** The layer that shows a difference on the frame's pixels. */
export function differenceLayer(d: Difference): Layer {
  return {
    key: `${d.kind} ${d.gain}`,
    planes: d.kind === "absolute" ? 3 : 1,
    wholeTiles: true,
    address: (level, column, row) =>
      `/api/outputs/${d.one}/less/${d.two}/${level}/${column}_${row}?` +
      new URLSearchParams({ kind: d.kind, match: d.match, lie: d.lie }).toString(),
    paint: PAINTERS[d.kind](d.gain),
  };
}

const PAINTERS: Record<Kind, (gain: number) => Layer["paint"]> = {
  brightness: (gain) => (steps, count, out) => {
    const { zero, step } = SCALES.brightness;
    for (let i = 0, o = 0; i < count; i++, o += 4) {
      const s = steps[i] ?? NONE;
      const v = s === NONE ? MID : MID + (gain * (s - zero)) / step;
      out[o] = out[o + 1] = out[o + 2] = v;
      out[o + 3] = 255;
    }
  },
  absolute: (gain) => (steps, count, out) => {
    const scale = gain / SCALES.absolute.step;
    for (let i = 0, o = 0; i < count; i++, o += 4) {
      const none = steps[i] === NONE;
      for (let c = 0; c < 3; c++) out[o + c] = none ? MID : scale * (steps[i + c * count] ?? 0);
      out[o + 3] = 255;
    }
  },
  de00: (gain) => (steps, count, out) => {
    const scale = gain / (SCALES.de00.step * DE_TOP);
    for (let i = 0, o = 0; i < count; i++, o += 4) {
      const s = steps[i] ?? NONE;
      const [r, g, b] = s === NONE ? [MID, MID, MID] : ramp(scale * s);
      out[o] = r;
      out[o + 1] = g;
      out[o + 2] = b;
      out[o + 3] = 255;
    }
  },
};

export interface Numbers {
  mean: number;
  /** 99 of 100 pixels differ by no more. */
  p99: number;
  /** Signed mean; of kinds without a sign the mean. */
  bias: number;
  pixels: number;
}

/**
 * Numbers of a difference over the part in view, from whole pixels of the level that is drawn;
 * nothing while a tile is missing.
 */
export function numbersInView(
  kind: Kind,
  view: View,
  frame: Size,
  canvas: Size,
  level: number,
  read: (tile: Tile) => Uint16Array | undefined,
): Numbers | undefined {
  const counts = new Uint32Array(65536);
  const share = 2 ** level;
  for (const tile of tilesInView(view, IDENTITY, frame, canvas, level)) {
    const steps = read(tile);
    if (!steps) return undefined;
    const { width, height } = tileSize(frame, level, tile.column, tile.row);
    const across = inView(view.x, canvas.width / view.zoom, share, tile.column, width);
    const down = inView(view.y, canvas.height / view.zoom, share, tile.row, height);
    for (let plane = 0; plane * width * height < steps.length; plane++)
      for (let y = down.from; y < down.to; y++) {
        const row = plane * width * height + y * width;
        for (let x = across.from; x < across.to; x++) {
          const step = steps[row + x] ?? NONE;
          counts[step] = (counts[step] ?? 0) + 1;
        }
      }
  }
  return numbersOf(counts, kind);
}

/** Pixels of a tile whose middles lie in view. */
export function inView(
  middle: number,
  room: number,
  share: number,
  at: number,
  size: number,
): { from: number; to: number } {
  const first = (middle - room / 2) / share - at * TILE;
  const last = (middle + room / 2) / share - at * TILE;
  return {
    from: Math.min(size, Math.max(0, Math.ceil(first - 0.5))),
    to: Math.max(0, Math.min(size, Math.ceil(last - 0.5))),
  };
}

/** Numbers of how often each step occurs. */
export function numbersOf(counts: Uint32Array, kind: Kind): Numbers | undefined {
  const { zero, step } = SCALES[kind];
  let [pixels, sum, signed] = [0, 0, 0];
  const far = new Map<number, number>();
  for (let s = 0; s < NONE; s++) {
    const n = counts[s] ?? 0;
    if (!n) continue;
    const d = (s - zero) / step;
    pixels += n;
    signed += n * d;
    sum += n * Math.abs(d);
    far.set(Math.abs(d), (far.get(Math.abs(d)) ?? 0) + n);
  }
  if (!pixels) return undefined;
  let left = 0.99 * pixels;
  const falling = [...far].sort(([a], [b]) => a - b);
  const p99 = falling.find(([, n]) => (left -= n) <= 0)?.[0] ?? 0;
  return { mean: sum / pixels, p99, bias: signed / pixels, pixels };
}
