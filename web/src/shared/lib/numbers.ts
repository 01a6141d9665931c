// Rows of the tables of numbers: one measure each, one cell a contender; from readings of a place,
// or medians of a group.
import type { Contender, Measure, Reading, Summary } from "@/api/types";
import { medianSpread, medianText } from "./medians";
import { fixed, half, placed } from "./words";

export interface Shown {
  value: number | null;
  text: string;
  spread: string;
  note: string;
  reason: string;
  reading?: Reading;
}

export interface NumberRow {
  measure: Measure;
  cells: Map<number, Shown>;
}

export function fromReadings(
  measures: readonly Measure[],
  readings: readonly Reading[],
): NumberRow[] {
  return measures
    .map((measure) => ({
      measure,
      cells: new Map(
        readings
          .filter((r) => r.measure === measure.id)
          .map((r) => [r.contender, ofReading(r, measure)]),
      ),
    }))
    .filter((row) => [...row.cells.values()].some((c) => c.value !== null || c.reading?.concerns));
}

function ofReading(r: Reading, measure: Measure): Shown {
  const there = r.value !== null;
  return {
    value: r.value,
    text: there ? fixed(r.value ?? 0, measure.digits) : "",
    spread: there ? `±${fixed(half(r), measure.digits)}` : "",
    note: placed(r),
    reason: r.reason,
    reading: r,
  };
}

export function fromSummary(
  measures: readonly Measure[],
  summary: readonly Summary[],
  contenders: readonly Contender[],
): NumberRow[] {
  const ids = new Map(contenders.map((c) => [c.letter, c.id]));
  return measures
    .map((measure) => ({
      measure,
      cells: new Map(
        summary
          .filter((s) => s.measure === measure.id)
          .map((s): [number, Shown] => [
            ids.get(s.letter) ?? 0,
            {
              value: s.middle.value,
              text: medianText(s.middle, measure),
              spread: "",
              note:
                medianSpread(s.middle, measure) +
                (s.middle.count > 1 ? ` of ${s.middle.count}` : ""),
              reason: "",
            },
          ]),
      ),
    }))
    .filter((row) => row.cells.size > 0);
}

/** How far a value is from its measure's best; the lower the better. */
export function fromBest(measure: Measure, value: number): number {
  if (measure.target !== null) return Math.abs(value - measure.target);
  return measure.best === "highest" ? -value : value;
}

/**
 * Contenders with the pinned one first, the others by one measure's values, best first, where that
 * is asked for.
 */
export function ordered(
  columns: readonly Contender[],
  row: NumberRow | undefined,
  pinned: string,
): Contender[] {
  const key = (c: Contender) => {
    const value = row?.cells.get(c.id)?.value;
    return value === null || value === undefined || !row ? Infinity : fromBest(row.measure, value);
  };
  const sorted = row ? [...columns].sort((a, b) => key(a) - key(b)) : [...columns];
  return [
    ...sorted.filter((c) => c.letter === pinned),
    ...sorted.filter((c) => c.letter !== pinned),
  ];
}
