// A picture's full-depth copy, as the server has it (core.files.full_depth): tiles of 16-bit
// numbers, plane after plane, sRGB-encoded; and the transfer curve itself.
import { type Size, TILE } from "./geometry";

export const BLACK = 16384;
export const SPAN = 32768;
export const STEPS_OF_ALL = 65536;
/** Where planes about 0 have their 0. */
export const MIDDLE = BLACK + SPAN / 2;

/** IEC 61966-2-1: codes and linear light; the sign is kept beyond 0..1. */
export const decode = (c: number): number => {
  const a = Math.abs(c);
  return Math.sign(c) * (a <= 0.04045 ? a / 12.92 : ((a + 0.055) / 1.055) ** 2.4);
};
export const encode = (l: number): number => {
  const a = Math.abs(l);
  return Math.sign(l) * (a <= 0.0031308 ? a * 12.92 : 1.055 * a ** (1 / 2.4) - 0.055);
};

/** The encoded value that a step stands for. */
export const encodedOf = (step: number): number => (step - BLACK) / SPAN;

/** A level's size, px. */
export function sizeAt(picture: Size, level: number): Size {
  return {
    width: Math.ceil(picture.width / 2 ** level),
    height: Math.ceil(picture.height / 2 ** level),
  };
}

/** A tile's size, px: those at the right and at the bottom may be smaller. */
export function tileSize(picture: Size, level: number, column: number, row: number): Size {
  const whole = sizeAt(picture, level);
  return {
    width: Math.min(TILE, whole.width - column * TILE),
    height: Math.min(TILE, whole.height - row * TILE),
  };
}

export function deepAddress(
  picture: number,
  level: number,
  column: number,
  row: number,
  plane = "all",
): string {
  const asked = plane === "all" ? "" : `?plane=${plane}`;
  return `/api/pictures/${picture}/full-depth/${level}/${column}_${row}${asked}`;
}

/** Gives a full-size tile's steps, if they are there. */
export type Reader = (column: number, row: number) => Uint16Array | undefined;

/** One full-size pixel's steps; nothing while its tile is not there. */
export function pixelAt(
  picture: Size,
  x: number,
  y: number,
  read: Reader,
): [number, number, number] | undefined {
  const [column, row] = [Math.floor(x / TILE), Math.floor(y / TILE)];
  const steps = read(column, row);
  if (!steps) return undefined;
  const { width, height } = tileSize(picture, 0, column, row);
  const at = (y - row * TILE) * width + x - column * TILE;
  const of = (plane: number) => steps[at + plane * width * height] ?? BLACK;
  return [of(0), of(1), of(2)];
}

/** A square of full-size pixels, as far as it lies within the picture. */
export interface Square {
  /** Plane after plane, encoded 0..1. */
  planes: [number[], number[], number[]];
}

/**
 * The pixels of a square of `side` px about a place of a picture, out of whatever tiles they lie
 * in; nothing where the place is outside, or a tile is not there yet.
 */
export function squareAt(
  picture: Size,
  x: number,
  y: number,
  side: number,
  read: Reader,
): Square | undefined {
  const [cx, cy] = [Math.floor(x), Math.floor(y)];
  if (cx < 0 || cy < 0 || cx >= picture.width || cy >= picture.height) return undefined;
  const reach = (side - 1) / 2;
  const planes: Square["planes"] = [[], [], []];
  for (let py = Math.max(0, cy - reach); py <= Math.min(picture.height - 1, cy + reach); py++)
    for (let px = Math.max(0, cx - reach); px <= Math.min(picture.width - 1, cx + reach); px++) {
      const pixel = pixelAt(picture, px, py, read);
      if (!pixel) return undefined;
      for (const c of [0, 1, 2] as const) planes[c].push(encodedOf(pixel[c]));
    }
  return { planes };
}
