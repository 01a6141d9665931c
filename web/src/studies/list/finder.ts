// Finding studies in their list: by words, state and what varies; sorted.
import type { StudyRow } from "@/api/types";
import { named } from "@/shared/lib/words";

export type State = "" | "open" | "published" | "archived";
export type Order = "newest" | "oldest" | "question";

export interface Wanted {
  words: string;
  state: State;
  factor: string;
  order: Order;
}

const textOf = (s: StudyRow): string =>
  [s.question, s.factor, ...s.contenders.map(named)].join(" ").toLowerCase();

function fits(study: StudyRow, state: State): boolean {
  if (state === "archived") return study.archived;
  if (study.archived) return false;
  return state === "" || (state === "published") === (study.edition !== null);
}

const ORDERS: Record<Order, (a: StudyRow, b: StudyRow) => number> = {
  newest: (a, b) => b.id - a.id,
  oldest: (a, b) => a.id - b.id,
  question: (a, b) => a.question.localeCompare(b.question),
};

export function foundStudies(studies: readonly StudyRow[], wanted: Wanted): StudyRow[] {
  const words = wanted.words.toLowerCase().split(/\s+/).filter(Boolean);
  return studies
    .filter(
      (s) =>
        fits(s, wanted.state) &&
        (!wanted.factor || s.factor === wanted.factor) &&
        words.every((w) => textOf(s).includes(w)),
    )
    .sort(ORDERS[wanted.order]);
}
