// Remarks in words, and in the order of patches.
import type { Contender, Patch, Remark } from "@/api/types";

export const REMARK_KINDS: readonly Remark["kind"][] = [
  "smeared",
  "plastic",
  "blotchy",
  "halo",
  "streak",
  "fringe",
  "false detail",
  "noise left",
  "colour shift",
  "better",
  "worse",
  "own words",
];

/** What it says: its own words where it has nothing but those. */
export const saidBy = (r: Pick<Remark, "kind" | "text">): string =>
  r.kind === "own words" ? r.text : [r.kind, r.text].filter(Boolean).join(": ");

/** The letters it holds for, in the order of the columns. */
export function lettersOf(
  r: Pick<Remark, "contenders" | "of_all">,
  columns: readonly Pick<Contender, "id" | "letter">[],
): string[] {
  return columns.filter((c) => r.contenders.includes(c.id)).map((c) => c.letter);
}

/** Whether a pane with that contender shows it. */
export const concerns = (r: Pick<Remark, "contenders" | "of_all">, contender: number): boolean =>
  r.of_all || r.contenders.includes(contender);

type Spot = Pick<Remark, "frame" | "x" | "y">;
type Area = Pick<Patch, "id" | "frame" | "x" | "y" | "w" | "h">;

/** The smallest patch that a spot lies on. */
export function patchAt<P extends Area>(patches: readonly P[], spot: Spot): P | undefined {
  return patches
    .filter(
      (p) =>
        p.frame === spot.frame &&
        p.x <= spot.x &&
        spot.x <= p.x + p.w &&
        p.y <= spot.y &&
        spot.y <= p.y + p.h,
    )
    .sort((a, b) => a.w * a.h - b.w * b.h)[0];
}

export interface Group<P> {
  /** Nothing where the spots lie on no patch. */
  patch: P | undefined;
  remarks: Remark[];
}

/** By patch in the patches' order, then what lies on none. */
export function byPatch<P extends Area>(
  remarks: readonly Remark[],
  patches: readonly P[],
): Group<P>[] {
  const of = (patch: P | undefined) => remarks.filter((r) => patchAt(patches, r)?.id === patch?.id);
  return [...patches, undefined]
    .map((patch) => ({ patch, remarks: of(patch) }))
    .filter((group) => group.remarks.length);
}

/** Places along a margin, px, moved apart to the right where they would overlap. */
export function apart(places: readonly number[], width: number): number[] {
  const order = places.map((_, i) => i).sort((a, b) => (places[a] ?? 0) - (places[b] ?? 0));
  const moved = [...places];
  let free = -Infinity;
  for (const i of order) {
    const at = Math.max(places[i] ?? 0, free);
    moved[i] = at;
    free = at + width;
  }
  return moved;
}
