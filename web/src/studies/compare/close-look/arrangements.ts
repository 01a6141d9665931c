// How the panes of a close look stand to each other, and what they differ from.
import { GAINS } from "@/viewer/light";
import { KINDS } from "@/viewer/differences";
import { among } from "@/studies/compare/lights";

export const ARRANGEMENTS = ["beside", "in place", "reveal", "difference"] as const;
export type Arrangement = (typeof ARRANGEMENTS)[number];
export const ARRANGEMENT_WORDS: Record<Arrangement, string> = {
  beside: "Beside",
  "in place": "In place",
  reveal: "Reveal",
  difference: "Difference",
};
/** How often panes shown in place take turns, a second; 0 is by hand. */
export const RATES = [0, 0.5, 1, 2, 4] as const;

export interface Arranged {
  arrangement: Arrangement;
  /** The letter that panes differ from, or that lies under the boundary. */
  against: string;
  kind: (typeof KINDS)[number];
  gain: number;
  rate: number;
}

export function arrangedFrom(
  query: (name: string) => string,
  columns: readonly { letter: string; kind: string }[],
): Arranged {
  const letters = columns.map((c) => c.letter);
  const first = (["unprocessed", "truth"] as const)
    .map((kind) => columns.find((c) => c.kind === kind)?.letter)
    .find((letter) => letter !== undefined);
  return {
    arrangement: among(ARRANGEMENTS, query("as").replace("-", " "), "beside"),
    against: among(letters, query("against"), first ?? letters[0] ?? ""),
    kind: among(KINDS, query("kind"), "brightness"),
    gain: among(GAINS, query("gain"), 4),
    rate: among(RATES, query("rate"), 0),
  };
}

/** What an address must tell of it: nothing of what does not show. */
export function arrangedTold(a: Arranged): Record<string, string> {
  const told: Record<string, string> = {};
  if (a.arrangement !== "beside") told.as = a.arrangement.replace(" ", "-");
  if (a.arrangement === "reveal" || a.arrangement === "difference") told.against = a.against;
  if (a.arrangement === "difference") {
    told.kind = a.kind;
    told.gain = String(a.gain);
  }
  if (a.arrangement === "in place" && a.rate) told.rate = String(a.rate);
  return told;
}

/** Whether all panes take the same room, one over the other. */
export const isStacked = (a: Arrangement): boolean => a === "in place" || a === "reveal";
