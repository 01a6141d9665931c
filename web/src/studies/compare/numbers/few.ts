// Which numbers of a place are shown first: its type's main measure, then one of noise, detail and
// error, then artefacts that were found; everything else unfolds.
import type { Answers, Measure } from "@/api/types";
import type { NumberRow } from "@/shared/lib/numbers";

/** What stands for its family where a place has it, the first there is. */
const FIRST: readonly (readonly string[])[] = [
  ["noise_luma"],
  ["noise_chroma"],
  ["detail_kept", "detail_frame", "mtf50"],
  ["psnr", "ssim"],
  ["de00_mean"],
];

/** Readings in which something was found that speaks against a contender. */
export function foundIn(findings: Answers["findings"]): ReadonlySet<number> {
  const bad = findings.flatMap((f) => f.sentences.filter((s) => s.tone === "bad"));
  return new Set(bad.flatMap((s) => s.readings));
}

function isFound(row: NumberRow, found: ReadonlySet<number>): boolean {
  return [...row.cells.values()].some((c) => c.reading && found.has(c.reading.id));
}

const isOwn = (m: Measure, role: string): boolean => m.own_of.includes(role);

export interface Split {
  first: NumberRow[];
  rest: NumberRow[];
}

/** Rows that are shown at once, the main one before the others, and those that unfold. */
export function split(rows: readonly NumberRow[], role: string, found: ReadonlySet<number>): Split {
  const there = (id: string) => rows.find((r) => r.measure.id === id);
  const chosen = new Set<NumberRow>(rows.filter((r) => isOwn(r.measure, role)));
  for (const ids of FIRST) {
    const row = ids.map(there).find((r) => r !== undefined);
    if (row) chosen.add(row);
  }
  for (const row of rows) if (isFound(row, found)) chosen.add(row);
  return { first: [...chosen], rest: rows.filter((r) => !chosen.has(r)) };
}

/** Whether every word that is looked for is in a measure's name or family. */
export function matches(measure: Measure, looked: string): boolean {
  const text = `${measure.name} ${measure.family} ${measure.unit}`.toLowerCase();
  return looked
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
}
