// What examining an output found, in words and in the order that a reader wants it.
import type { Examination } from "@/api/types";
import { decode, encode } from "@/viewer/depth";
import { fixed } from "@/shared/lib/words";

export interface Told {
  name: string;
  text: string;
  half: string;
}

type Row = readonly [key: string, name: string, unit: string, digits: number];

const TONE: readonly Row[] = [
  ["exposure", "Exposure", "EV", 3],
  ["shadows", "Shadows beside exposure", "8-bit levels", 1],
  ["mids", "Mid tones beside exposure", "8-bit levels", 1],
  ["lights", "Lights beside exposure", "8-bit levels", 1],
  ["contrast", "Coarse contrast", "times", 3],
  ["corners", "Corners against the middle", "EV", 3],
  ["clipped", "Clipped at white, more than the frame", "%", 2],
  ["crushed", "Cut off at black, more than the frame", "%", 2],
  ["grey_a", "Greys along a*", "", 2],
  ["grey_b", "Greys along b*", "", 2],
  ["saturation", "Chroma", "times", 3],
];
const PICTURE: readonly Row[] = [
  ["sharpened", "Fine structure against coarse", "times", 2],
  ["local_contrast", "Structure of 8 to 20 px against coarser", "times", 2],
  ["overshoot", "Halo on the light side of edges", "% of the step", 1],
  ["undershoot", "Halo on the dark side of edges", "% of the step", 1],
  ["smeared", "Faint fine texture kept", "times", 2],
  ["noise_raised", "Noise left, its most raised octave", "times", 2],
  ["patchy", "Noise left, scatter from place to place", "", 3],
  ["added", "Structure that the frame has not", "times", 3],
  ["finer", "Finer than the frame holds, against a plain enlargement", "times", 2],
  ["blotch_codes", "Coarse colour noise left", "8-bit levels", 2],
];

function told(found: Examination, rows: readonly Row[]): Told[] {
  const values = new Map(found.values.map((v) => [v.name, v]));
  return rows.flatMap(([key, name, unit, digits]) => {
    const v = values.get(key);
    if (!v) return [];
    const half = Math.max(v.high - v.value, v.value - v.low);
    const exact = half < 1e-9;
    return [
      {
        name,
        text: `${fixed(v.value, digits)} ${unit}`.trim(),
        half: exact ? "" : `±${half.toFixed(digits)}`,
      },
    ];
  });
}

export const toneValues = (found: Examination): Told[] => told(found, TONE);
export const pictureValues = (found: Examination): Told[] => told(found, PICTURE);

/** What a change of exposure alone adds to tones (0..1), 8-bit codes. */
export const addedBy = (stops: number, tones: readonly number[]): number[] =>
  tones.map((t) => 255 * (encode(decode(t) * 2 ** stops) - t));

/** One curve's columns. */
export function columnsOf(found: Examination, name: string): Record<string, number[]> | null {
  return found.curves.find((c) => c.name === name)?.columns ?? null;
}
