// Readings of three outputs at one level, as rows of a table.
import type { Shape } from "@/api/client";

const DIGITS = 3;

export type Way = Shape["LevelFoundOut"]["way"];

/** In what one is brought to another's level: as a choice, as a question, as what was done. */
export const WAYS: Record<
  Way,
  { title: string; level: string; asks: string; does: string; done: string }
> = {
  sharpness: {
    title: "sharpness, by an unsharp mask",
    level: "sharpness",
    asks: "The radius and amount of an unsharp mask are sought that bring one to the other’s transfer, frequency by frequency; then noise, halos, detail and false detail of both are measured at one level.",
    does: "Sharpen",
    done: "sharpened",
  },
  deconvolution: {
    title: "sharpness, by a deconvolution",
    level: "sharpness",
    asks: "The blur that a Wiener filter has to undo is sought, and how firmly, to bring one to the other’s transfer; then both are measured at one level.",
    does: "Deconvolve",
    done: "deconvolved",
  },
  noise: {
    title: "noise",
    level: "noise",
    asks: "A guided filter is sought that leaves as little noise on plain patches as the other has; then detail, sharpness and colour noise of both are measured at one level.",
    does: "Smooth",
    done: "smoothed",
  },
  contrast: {
    title: "contrast",
    level: "contrast",
    asks: "Coarse contrast of both is compared with fine structure: how much of what looks like sharpness is contrast; then both are measured at equal contrast.",
    does: "Level",
    done: "at equal contrast",
  },
  size: {
    title: "size",
    level: "size",
    asks: "One is enlarged by plain Lanczos as far as the other; then detail, sharpness and halos of both are measured at one size.",
    does: "Resize",
    done: "resized",
  },
};

/** Settings of the method that was found, in words. */
export const valuesText = (values: Readonly<Record<string, unknown>>): string =>
  Object.entries(values)
    .map(([name, v]) => `${name} ${typeof v === "number" ? Number(v.toPrecision(DIGITS)) : v}`)
    .join(", ");

const NAMES: Record<string, string> = {
  noise_luma: "noise, brightness",
  noise_chroma: "noise, colour",
  overshoot: "halo",
  detail_added: "false detail",
  detail_kept: "detail kept",
  mtf50: "MTF50",
};

export interface LevelRow {
  what: string;
  values: string[];
}

const told = (value: number | null): string => (value === null ? "–" : value.toPrecision(DIGITS));

export const readingRows = (readings: readonly Shape["LevelReadingOut"][]): LevelRow[] =>
  readings
    .map((r) => ({ ...r, values: [r.before, r.made, r.other] }))
    .filter((r) => r.values.some((v) => v !== null))
    .map((r) => ({
      what: [`${r.patch}, ${NAMES[r.measure] ?? r.measure}`, r.unit].filter(Boolean).join(", "),
      values: r.values.map(told),
    }));
