// Brightness taken off for looking: a table of 256 codes for the display copy. Measuring does the
// same at full depth on the server.

export const MATCHES = ["none", "exposure", "exposure and tone"] as const;
export type ViewMatch = (typeof MATCHES)[number];

export interface Tone {
  stops: number | null;
  frame: readonly number[];
  output: readonly number[];
}

/** IEC 61966-2-1: codes and linear light, 0..1. */
export const decode = (c: number): number =>
  c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
export const encode = (l: number): number =>
  l <= 0.0031308 ? l * 12.92 : 1.055 * l ** (1 / 2.4) - 0.055;

/** The table for one output; none where there is nothing to take off. */
export function tableFor(
  match: ViewMatch,
  tone: Tone | null | undefined,
): Uint8ClampedArray | null {
  if (match === "none" || !tone) return null;
  if (match === "exposure and tone" && tone.frame.length > 1) return table((c) => back(c, tone));
  const stops = tone.stops;
  return stops === null ? null : table((c) => encode(decode(c) * 2 ** -stops));
}

function table(change: (code: number) => number): Uint8ClampedArray {
  return Uint8ClampedArray.from({ length: 256 }, (_, i) => Math.round(255 * change(i / 255)));
}

/**
 * The frame's tone for an output's; beyond the curve's ends the distance stays what it is there.
 */
function back(code: number, { frame, output }: Tone): number {
  const last = output.length - 1;
  const at = (i: number) => ({ y: output[i] ?? 0, x: frame[i] ?? 0 });
  if (code <= at(0).y) return code + at(0).x - at(0).y;
  if (code >= at(last).y) return code + at(last).x - at(last).y;
  const after = output.findIndex((y) => y > code);
  const [low, high] = [at(after - 1), at(after)];
  return low.x + ((code - low.y) / (high.y - low.y)) * (high.x - low.x);
}
