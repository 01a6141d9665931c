// A scale of colours that grows in lightness from end to end, so that it reads without colour too.
const STOPS = [
  [18, 20, 24],
  [28, 70, 96],
  [60, 124, 110],
  [190, 172, 84],
  [255, 244, 214],
] as const;

export type Colour = readonly [number, number, number];

const COLOURS: readonly Colour[] = Array.from({ length: 256 }, (_, i) => {
  const at = (i / 255) * (STOPS.length - 1);
  const low = Math.min(STOPS.length - 2, Math.floor(at));
  const [from, to] = [STOPS[low] ?? STOPS[0], STOPS[low + 1] ?? STOPS[0]];
  const mix = (c: 0 | 1 | 2) => Math.round(from[c] + (at - low) * (to[c] - from[c]));
  return [mix(0), mix(1), mix(2)] as const;
});

/** The colour of a share of the scale, cut off at both ends. */
export function ramp(share: number): Colour {
  const i = Math.round(255 * Math.min(1, Math.max(0, share)));
  return COLOURS[i] as Colour;
}

/** The scale as CSS has it, left to right. */
export const RAMP_CSS = `linear-gradient(to right, ${STOPS.map((c) => `rgb(${c.join(" ")})`).join(", ")})`;
