// What became of the last thing that a program was told, in words.
import type { Shape } from "@/api/client";
import { moment } from "@/shared/lib/formats";

export type Hook = Shape["HookOut"];
export type Telling = Shape["TellingOut"];
export type Happening = Telling["event"];

/** What may be told, as a choice: what happens, and when that is. */
export const EVENTS: readonly { value: Happening; title: string; when: string }[] = [
  { value: "readings ready", title: "Readings ready", when: "all outputs of a study are measured" },
  { value: "edition published", title: "Edition published", when: "readers can read it" },
  {
    value: "finding raised",
    title: "Finding raised",
    when: "an output turns out not to be like for like",
  },
];

/** Whether it is under way, without a word yet. */
export const underWay = (telling: Telling | undefined): boolean =>
  telling !== undefined && telling.due !== null && telling.tries === 0;

export function lastText(telling: Telling | undefined): string {
  if (!telling) return "nothing was told yet";
  if (underWay(telling)) return "being told";
  if (telling.arrived) return `“${telling.event}” arrived ${moment(telling.arrived)}`;
  const next = telling.due ? `next try ${moment(telling.due)}` : "given up";
  const tries = telling.tries === 1 ? "1 try" : `${telling.tries} tries`;
  return `“${telling.event}” did not arrive: ${telling.problem}; ${tries}, ${next}`;
}
