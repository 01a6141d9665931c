// The wall's columns: their order, those held at the left, those hidden.
import type { Contender } from "@/api/types";

/** As entered, by rank in what each row tells, by tool, or by rank in one measure: its id. */
export type Order = string;
export const RANK = "rank";
export const TOOL = "tool";

type Column = Pick<Contender, "letter" | "title">;

export interface Arrangement {
  /** Letters that were moved, in their order; others follow as they were entered. */
  moved: readonly string[];
  held: readonly string[];
  hidden: readonly string[];
  order: Order;
}

/** Letters as an address has them. */
export const lettersIn = (told: string): string[] => [...new Set(told.split(",").filter(Boolean))];

/** Columns as they stand: held ones first, hidden ones not at all. */
export function arranged<C extends Column>(
  columns: readonly C[],
  { moved, held, hidden, order }: Arrangement,
  rankOf: (letter: string) => number | undefined,
): C[] {
  const place = new Map(moved.map((letter, i) => [letter, i]));
  const byHand = [...columns].sort(
    (a, b) => (place.get(a.letter) ?? Infinity) - (place.get(b.letter) ?? Infinity) || 0,
  );
  const key = (c: C): number => rankOf(c.letter) ?? -1;
  const tools = [...new Set(columns.map((c) => toolOf(c)))];
  const sorted = [...byHand];
  if (order && order !== TOOL) sorted.sort((a, b) => key(a) - key(b));
  if (order === TOOL) sorted.sort((a, b) => tools.indexOf(toolOf(a)) - tools.indexOf(toolOf(b)));
  const shown = sorted.filter((c) => !hidden.includes(c.letter));
  return [
    ...shown.filter((c) => held.includes(c.letter)),
    ...shown.filter((c) => !held.includes(c.letter)),
  ];
}

/** The tool of a title: what stands before its release. */
const toolOf = (c: Column): string => c.title.replace(/\s+[\d.]+\w*$/, "");

/** The order of letters once one was put where another stands. */
export function movedTo(letters: readonly string[], letter: string, to: string): string[] {
  const target = letters.indexOf(to);
  const rest = letters.filter((l) => l !== letter);
  if (target < 0 || letter === to) return [...letters];
  return [...rest.slice(0, target), letter, ...rest.slice(target)];
}

/** In it or out of it. */
export const toggled = (letters: readonly string[], letter: string): string[] =>
  letters.includes(letter) ? letters.filter((l) => l !== letter) : [...letters, letter];
