// Readings of three outputs at one level, as rows of a table.
import type { Shape } from "@/api/client";

const NAMES: Record<string, string> = {
  noise_luma: "noise, brightness",
  overshoot: "halo",
  detail_added: "false detail",
  detail_kept: "detail kept",
  mtf50: "MTF50",
};
const DIGITS = 3;

export interface LevelRow {
  what: string;
  values: string[];
}

const told = (value: number | null): string => (value === null ? "–" : value.toPrecision(DIGITS));

export const readingRows = (readings: readonly Shape["LevelReadingOut"][]): LevelRow[] =>
  readings
    .map((r) => ({ ...r, values: [r.before, r.sharpened, r.other] }))
    .filter((r) => r.values.some((v) => v !== null))
    .map((r) => ({
      what: [`${r.patch}, ${NAMES[r.measure] ?? r.measure}`, r.unit].filter(Boolean).join(", "),
      values: r.values.map(told),
    }));
