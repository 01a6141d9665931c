// What is said of a sitting before and after.
import type { Shape } from "@/api/client";

type Interval = Shape["IntervalOut"];

export const percent = (share: number): string => `${Math.round(100 * share)} %`;

/** “71 % (62 to 79)”. */
export const withBounds = ({ value, low, high }: Interval): string =>
  `${percent(value)} (${Math.round(100 * low)} to ${Math.round(100 * high)})`;

export const KIND_ITEMS = [
  { value: "pairs", title: "Pairs: which of two" },
  { value: "single", title: "Single pictures: how disturbing" },
  { value: "order", title: "Rows: put in order" },
] as const;

export const STATE_WORDS: Record<Shape["SittingOut"]["state"], string> = {
  preparing: "being prepared",
  open: "open",
  closed: "closed",
  failed: "could not be prepared",
};

/** What so many answers can tell, in a sentence or two. */
export function prospectWords(told: Shape["ProspectOut"], judges: number): string {
  const minutes = Math.max(1, Math.round(told.seconds / 60));
  const who = judges === 1 ? "One judge gives" : `${judges} judges give`;
  const time = `${who} ${told.answers} answers, about ${minutes} min each.`;
  if (!told.decisive) return time;
  const each = `About ${told.of_a_pair} for each pair of contenders are decisive`;
  const tells = told.tells
    ? `they tell ${percent(told.tells)} from ${percent(1 - told.tells)} with 8 of 10 chance.`
    : "too few to tell any two apart by themselves.";
  return `${time} ${each}: ${tells}`;
}

/** What it takes, whatever is planned. */
export const neededWords = (told: Shape["ProspectOut"]): string =>
  `It takes ${told.needed_67} decisive answers to tell 67 from 33 %, ${told.needed_60} to tell 60 from 40 %.`;

/** How a measure goes with what was chosen. */
export function agreementWords(gamma: number): string {
  if (gamma >= 0.6) return "mostly with the choices";
  if (gamma >= 0.2) return "somewhat with the choices";
  if (gamma > -0.2) return "neither with nor against";
  return "against the choices";
}

type Parting = Shape["PartingOut"] & { measures: string[] };

/** Where eyes and numbers part, each pair at a spot once with all measures that say otherwise. */
export function partingsOf(
  beside: readonly Pick<Shape["BesideOut"], "name" | "partings">[],
): Parting[] {
  const found = new Map<string, Parting>();
  for (const { name, partings } of beside)
    for (const p of partings) {
      const key = `${p.spot} ${p.chosen} ${p.measured}`;
      const there = found.get(key);
      if (there) there.measures.push(name);
      else found.set(key, { ...p, measures: [name] });
    }
  return [...found.values()].sort((a, b) => b.share.low - a.share.low);
}
