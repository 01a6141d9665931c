// Medians over many places, and answers of comparisons, as a reviewer reads them.
import type { Measure, Median, Standing } from "@/api/types";
import { fixed } from "./words";

export type Against = Standing["against"][number];

/** The value, and the wider half of its interval where there are enough places for one. */
export function medianText(middle: Median, measure: Measure | undefined): string {
  return fixed(middle.value, measure?.digits ?? 2);
}

export function medianSpread(middle: Median, measure: Measure | undefined): string {
  const digits = measure?.digits ?? 2;
  if (middle.count < 2) return "1 place";
  const range = `${fixed(middle.low, digits)} to ${fixed(middle.high, digits)}`;
  return middle.level >= 0.95 ? range : `range ${range}`;
}

/** "better in 20 of 22", or what there was of each where no answer prevails. */
export function answerText(against: Against): string {
  if (against.answer !== "it depends") {
    return against.places === 1
      ? against.answer
      : `${against.answer}, ${against.same} of ${against.places}`;
  }
  const parts = Object.entries(against.counts).map(([answer, count]) => `${answer} ${count}`);
  return `it depends: ${parts.join(", ")}`;
}

/** How far along a row's values one lies, 0 to 1, for the thin bar under it. */
export function share(value: number, values: readonly number[]): number {
  const least = Math.min(0, ...values);
  const most = Math.max(0, ...values);
  return most > least ? Math.abs(value) / Math.max(Math.abs(most), Math.abs(least)) : 0;
}
