// A paragraph of the answer, as clauses with what joins them.
import type { Answers } from "@/api/types";

export type Paragraph = Answers["paragraphs"][number];

export interface Joined {
  /** What stands before it: ", then " between ranks, ";" before what speaks against. */
  joint: string;
  before: string;
  letters: readonly string[];
  after: string;
  readings: readonly number[];
}

/** Ranks first, the best before the others; then what speaks against whom. */
export function clausesOf(p: Paragraph): Joined[] {
  const order = p.order.map((c, i) => ({
    joint: i ? ", then " : "",
    before: "",
    letters: c.letters,
    after: c.text && c.letters.length > 1 ? `(${c.text})` : "",
    readings: c.readings,
  }));
  const against = p.faults.map((c) => ({
    joint: "; ",
    before: `${c.text}:`,
    letters: c.letters,
    after: "",
    readings: c.readings,
  }));
  return [...order, ...against];
}

/** How far it carries. */
export const overWords = (places: number): string =>
  places === 1 ? "on one patch" : `over ${places} patches`;
