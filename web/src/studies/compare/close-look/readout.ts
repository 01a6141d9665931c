// What a pane tells of the place under the pointer, from its full-depth pixels.
import { encode, decode, type Square } from "@/viewer/depth";
import { labOf, type Triple } from "@/viewer/lab";

export const UNITS = ["8-bit levels", "linear", "CIELAB"] as const;
export type Unit = (typeof UNITS)[number];
export const SIDES = [1, 5, 11, 21] as const;

// ITU-R BT.709-6.
const LUMA = [0.2126, 0.7152, 0.0722] as const;

export interface Sample {
  /** Mean of the square's light, encoded 0..1. */
  mean: Triple;
  lab: Triple;
  /** Standard deviation of luma over the square, 8-bit levels; none of one pixel. */
  sd: number | undefined;
}

/** One number of an encoded value, as a unit has brightness. */
export function brightness(encoded: Triple, unit: Unit): number {
  if (unit === "CIELAB") return labOf(encoded)[0];
  const of = unit === "linear" ? decode : (v: number) => 255 * v;
  return encoded.reduce((sum, v, c) => sum + (LUMA[c] ?? 0) * of(v), 0);
}
export const BRIGHTNESS: Record<Unit, string> = {
  "8-bit levels": "luma, 8-bit levels",
  linear: "luminance, 1 is white",
  CIELAB: "L*",
};

/** Light is averaged, as a lens that sees less would; noise is told of what the eye sees. */
export function sampleOf({ planes }: Square): Sample {
  const count = planes[0].length;
  const average = (values: readonly number[], of: (v: number) => number) =>
    values.reduce((sum, v) => sum + of(v), 0) / count;
  const mean = planes.map((p) => encode(average(p, decode))) as unknown as Triple;
  const luma = planes[0].map((_, i) =>
    planes.reduce((sum, p, c) => sum + (LUMA[c] ?? 0) * (p[i] ?? 0), 0),
  );
  const middle = average(luma, (v) => v);
  const variance = luma.reduce((sum, v) => sum + (v - middle) ** 2, 0) / Math.max(1, count - 1);
  return { mean, lab: labOf(mean), sd: count > 1 ? 255 * Math.sqrt(variance) : undefined };
}

/** Three numbers as a unit writes them. */
export function told(sample: Sample, unit: Unit): string {
  if (unit === "CIELAB") return sample.lab.map((v) => fixed(v, 1)).join(" ");
  if (unit === "linear") return sample.mean.map((v) => fixed(decode(v), 4)).join(" ");
  return sample.mean.map((v) => fixed(255 * v, 1)).join(" ");
}

export const fixed = (v: number, digits: number): string =>
  v
    .toFixed(digits)
    .replace(/^-(?=0\.?0*$)/, "")
    .replace("-", "−");

/** By how much lighter one is than another, L*. */
export const lighter = (one: Sample, two: Sample): string => {
  const by = fixed(one.lab[0] - two.lab[0], 1);
  return by.startsWith("−") ? by : `+${by}`;
};
