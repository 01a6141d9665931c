// Verdicts laid out by use and kind of scene.
import type { Shape } from "@/api/client";

export type Line = Required<Shape["VerdictShape"]>;
export type Judged = Line["marks"][string];
export type EvidenceCell = Shape["EvidenceCellOut"];

export const JUDGED: readonly { value: Judged; title: string }[] = [
  { value: "better", title: "Better" },
  { value: "no difference", title: "No difference" },
  { value: "worse", title: "Worse" },
];

const same = (a: string, b: string): boolean => a.trim().toLowerCase() === b.trim().toLowerCase();

export const emptyLine = (use = "", scene = ""): Line => ({
  use,
  scene,
  text: "",
  marks: {},
  evidence: [],
});

/** Uses that something is written or was judged for, each once, in that order. */
export function usesOf(lines: readonly Line[], cells: readonly EvidenceCell[]): string[] {
  const found: string[] = [];
  for (const { use } of [...lines, ...cells])
    if (use.trim() && !found.some((f) => same(f, use))) found.push(use.trim());
  return found;
}

/** Kinds of scene that have a column: those of the frames, and those that verdicts are of. */
export const scenesOf = (lines: readonly Line[], scenes: readonly string[]): string[] => [
  ...new Set([...scenes, ...lines.map((l) => l.scene).filter(Boolean)]),
];

/** Places in the list of the verdicts of a cell. */
export const linesAt = (lines: readonly Line[], use: string, scene: string): number[] =>
  lines.flatMap((l, i) => (same(l.use, use) && same(l.scene, scene) ? [i] : []));

/** What is known for a use and kind of scene; for any use where it has none of its own. */
export function evidenceFor(
  cells: readonly EvidenceCell[],
  use: string,
  scene: string,
): EvidenceCell | undefined {
  const of = cells.filter((c) => same(c.scene, scene));
  return of.find((c) => c.use && same(c.use, use)) ?? of.find((c) => !c.use);
}

/** Marks in words, as a cell has room for. */
export function markWords(marks: Line["marks"]): string {
  const told = JUDGED.map(({ value, title }) => {
    const letters = Object.keys(marks)
      .filter((l) => marks[l] === value)
      .sort();
    return letters.length ? `${letters.join(", ")} ${title.toLowerCase()}` : "";
  });
  return told.filter(Boolean).join("; ");
}

/** With a key added, or without it if it was there. */
export const linked = (keys: readonly string[], key: string): string[] =>
  keys.includes(key) ? keys.filter((k) => k !== key) : [...keys, key];
