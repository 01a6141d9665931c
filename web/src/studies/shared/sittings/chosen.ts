// What was chosen blind, in the few words that stand beside a contender.
import type { Shape } from "@/api/client";

type Chances = Readonly<Record<string, number>>;
type Sitting = Pick<Shape["SittingOut"], "state" | "closed" | "chances">;

/** Chances to be chosen, of the sitting that was closed last. */
export function lastChances(sittings: readonly Sitting[] | undefined): Chances | undefined {
  const closed = (sittings ?? []).filter(
    (s) => s.state === "closed" && Object.keys(s.chances).length > 0,
  );
  closed.sort((a, b) => (b.closed ?? "").localeCompare(a.closed ?? ""));
  return closed[0]?.chances;
}

/** “chosen blind 70 %”; nothing of who did not stand. */
export function chosenWords(chances: Chances | undefined, letter: string): string {
  const chance = chances?.[letter];
  return chance === undefined ? "" : `chosen blind ${Math.round(100 * chance)} %`;
}
