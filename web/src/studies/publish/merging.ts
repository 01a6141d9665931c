// Two people's changes to one article, brought together where they do not meet.
import type { Block, Texts } from "./blocks";

const PARTS = ["summary", "method", "disclosure"] as const;
const same = (one: unknown, other: unknown): boolean =>
  JSON.stringify(one) === JSON.stringify(other);

/** What only one of them changed is taken from that one; undefined where both did. */
function ofOne<T>(base: T, mine: T, theirs: T): T | undefined {
  if (same(mine, base) || same(mine, theirs)) return theirs;
  return same(theirs, base) ? mine : undefined;
}

/** Both changes to what both began with; null where they changed the same thing. */
export function merged(base: Texts, mine: Texts, theirs: Texts): Texts | null {
  const made = { ...theirs };
  for (const part of PARTS) {
    const one = ofOne(base[part], mine[part], theirs[part]);
    if (one === undefined) return null;
    made[part] = one;
  }
  const blocks = mergedBlocks(base.blocks ?? [], mine.blocks ?? [], theirs.blocks ?? []);
  return blocks && { ...made, blocks };
}

/** Whole lists, or block by block where nobody moved, added or removed any. */
function mergedBlocks(
  base: readonly Block[],
  mine: readonly Block[],
  theirs: readonly Block[],
): Block[] | null {
  const whole = ofOne(base, mine, theirs);
  if (whole) return [...whole];
  const kinds = (blocks: readonly Block[]) => blocks.map((b) => b.kind);
  if (!same(kinds(base), kinds(mine)) || !same(kinds(base), kinds(theirs))) return null;
  const made = base.map((block, i) => ofOne(block, mine[i] ?? block, theirs[i] ?? block));
  return made.every((b) => b !== undefined) ? (made as Block[]) : null;
}
