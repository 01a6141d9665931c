// What may be answered, in words and by key.
import type { Shape } from "@/api/client";

type Kind = Shape["SeatOut"]["kind"];

export interface Choice {
  title: string;
  key: string;
  answer: Record<string, unknown>;
}

const PAIRS: Choice[] = [
  { title: "Left", key: "ArrowLeft", answer: { said: "left" } },
  { title: "No difference", key: "ArrowDown", answer: { said: "no difference" } },
  { title: "Right", key: "ArrowRight", answer: { said: "right" } },
];
// ITU-R BT.500, five-grade impairment scale.
const GRADES: Choice[] = [
  { title: "Imperceptible", key: "i", answer: { grade: 5 } },
  { title: "Perceptible, but not annoying", key: "p", answer: { grade: 4 } },
  { title: "Slightly annoying", key: "s", answer: { grade: 3 } },
  { title: "Annoying", key: "a", answer: { grade: 2 } },
  { title: "Very annoying", key: "v", answer: { grade: 1 } },
];

export function choicesOf(kind: Kind): readonly Choice[] {
  return { pairs: PAIRS, single: GRADES, order: [] }[kind];
}

/** The answer that a key gives. */
export const answerOf = (kind: Kind, key: string): Record<string, unknown> | undefined =>
  choicesOf(kind).find((c) => c.key === key)?.answer;
