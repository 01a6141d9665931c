// The questions of a whole study, and how their answers are put.
import type { Shape } from "@/api/client";

export type About = Shape["InquirySaidOut"]["about"];

/** Those that are asked and kept, and one that is reckoned from what is there. */
export const QUESTIONS: readonly { about: About | "worth"; title: string }[] = [
  { about: "visibility", title: "Would anybody see it?" },
  { about: "strength", title: "Strength" },
  { about: "level", title: "Could a slider do it?" },
  { about: "order", title: "Order of steps" },
  { about: "releases", title: "Release against release" },
  { about: "worth", title: "Price and speed" },
];

export const titleOf = (about: About | "worth"): string =>
  QUESTIONS.find((q) => q.about === about)?.title ?? about;

export type Seen = Shape["SeenCellOut"]["seen"];

/** In a table that is headed "seen". */
export const SEEN_WORDS: Record<Seen, string> = {
  "seen at once": "at once",
  "seen when pointed at": "when pointed at",
  "seen by nobody": "by nobody",
};

/** A share of the picture, in as many digits as mean something. */
export function shareText(share: number): string {
  const percent = 100 * share;
  if (percent === 0) return "0 %";
  if (percent < 0.1) return "under 0.1 %";
  return `${percent.toFixed(percent < 10 ? 1 : 0)} %`;
}
