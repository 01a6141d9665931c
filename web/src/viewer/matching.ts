// Brightness taken off for looking, at full depth: what core.tone.matching does, value by value.
import { decode, encode } from "./depth";

export const MATCHES = ["none", "exposure", "exposure and tone"] as const;
export type ViewMatch = (typeof MATCHES)[number];

export interface Tone {
  stops: number | null;
  frame: readonly number[];
  output: readonly number[];
}

/** What becomes of an encoded value of one output; none where there is nothing to take off. */
export function matcherFor(
  match: ViewMatch,
  tone: Tone | null | undefined,
): ((encoded: number) => number) | null {
  if (match === "none" || !tone) return null;
  if (match === "exposure and tone" && tone.frame.length > 1) return backThrough(tone);
  const stops = tone.stops;
  return stops ? (v) => encode(decode(v) * 2 ** -stops) : null;
}

/**
 * The frame's tone for an output's. Where the curve is level, several of the frame's became one:
 * the middle one comes back. Beyond its ends the distance stays what it is there.
 */
function backThrough({ frame, output }: Tone): (encoded: number) => number {
  const rising = [...new Set(output)].sort((a, b) => a - b);
  const apart = rising.map((y) => {
    const [first, last] = [output.indexOf(y), output.lastIndexOf(y)];
    return ((frame[first] ?? 0) + (frame[last] ?? 0)) / 2 - y;
  });
  return (v) => v + between(Math.min(1, Math.max(0, v)), rising, apart);
}

/** Straight between knots, held at both ends. */
function between(x: number, at: readonly number[], values: readonly number[]): number {
  const after = at.findIndex((a) => a > x);
  if (after === 0) return values[0] ?? 0;
  if (after < 0) return values.at(-1) ?? 0;
  const [x0, x1] = [at[after - 1] ?? 0, at[after] ?? 1];
  const [y0, y1] = [values[after - 1] ?? 0, values[after] ?? 0];
  return y0 + ((x - x0) / (x1 - x0)) * (y1 - y0);
}
