// Numbers as differences from one contender's.
import type { NumberRow, Shown } from "@/shared/lib/numbers";
import { fixed, half } from "@/shared/lib/words";

export interface Apart {
  text: string;
  /** Of the difference, from both intervals as if the readings were independent. */
  spread: string;
  /** The interval holds no difference as well. */
  none: boolean;
}

/**
 * One cell less another, with the interval that follows from theirs (MOVER: Zou and Donner 2008);
 * nothing where either has no number.
 */
export function apartOf(
  cell: Shown | undefined,
  from: Shown | undefined,
  digits: number,
): Apart | undefined {
  if (!cell || !from || cell.value === null || from.value === null) return undefined;
  const by = cell.value - from.value;
  const text = by < 0 ? fixed(by, digits) : `+${fixed(by, digits)}`;
  if (!cell.reading || !from.reading) return { text, spread: "", none: by === 0 };
  const reach = Math.hypot(half(cell.reading), half(from.reading));
  return { text, spread: `±${fixed(reach, digits)}`, none: Math.abs(by) <= reach };
}

export const NO_DIFFERENCE = "no measurable difference";

/** The cell that a row's others are held against. */
export const fromCell = (row: NumberRow, pinned: number | undefined): Shown | undefined =>
  pinned === undefined ? undefined : row.cells.get(pinned);
