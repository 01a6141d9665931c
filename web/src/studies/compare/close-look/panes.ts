// Which contenders stand in which panes, and how the panes lie.
import type { Size } from "@/viewer/geometry";

export const MOST_PANES = 6;

export interface Grid {
  columns: number;
  rows: number;
}

/** As wide as can be in one row up to three, then in two rows. */
export function gridOf(panes: number): Grid {
  const rows = panes > 3 ? 2 : 1;
  return { columns: Math.max(1, Math.ceil(panes / rows)), rows };
}

/** The room of one pane's picture, where its head takes some. */
export function roomOf(stage: Size, panes: number, head: number): Size {
  const { columns, rows } = gridOf(panes);
  return {
    width: stage.width / columns,
    height: Math.max(0, stage.height / rows - head),
  };
}

export interface Column {
  letter: string;
  kind: string;
}

/**
 * What a close look opens with: the letters asked for; where that is one, it stands first, and what
 * it is to be seen beside follows: the frame as it was, then its truth.
 */
export function openingLetters(columns: readonly Column[], asked: readonly string[]): string[] {
  const there = columns.map((c) => c.letter);
  const known = asked.filter((l) => there.includes(l)).slice(0, MOST_PANES);
  if (known.length > 1) return known;
  const of = (kind: string) => columns.find((c) => c.kind === kind)?.letter;
  const entered = columns.filter((c) => c.kind !== "unprocessed" && c.kind !== "truth");
  const first = known[0] ?? entered[0]?.letter ?? there[0];
  const beside = [of("unprocessed"), of("truth"), ...entered.map((c) => c.letter)];
  const others = [...new Set(beside)].filter((l) => l !== undefined && l !== first);
  return [first, ...others.slice(0, 2)].filter((l) => l !== undefined);
}

/** So many panes: letters that are not shown yet come in, the last ones go. */
export function resized(
  letters: readonly string[],
  count: number,
  columns: readonly Column[],
): string[] {
  const wanted = Math.min(Math.max(1, count), MOST_PANES);
  const unused = columns.map((c) => c.letter).filter((l) => !letters.includes(l));
  const more = [...unused, ...letters].slice(0, Math.max(0, wanted - letters.length));
  return [...letters, ...more].slice(0, wanted);
}

/** Where a letter goes: into the chosen pane, or the next one where that is pinned. */
export function paneFor(active: number, pinned: number | undefined, count: number): number {
  return active === pinned && count > 1 ? (active + 1) % count : active;
}
