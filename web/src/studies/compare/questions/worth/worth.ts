// Price and speed beside what is got for it, as charts and tables have them.
import type { Shape } from "@/api/client";
import type { Trade } from "@/api/types";

export type WorthRow = Shape["WorthRowOut"];
export type Up = "detail" | "noise";
export type Across = "amount" | "seconds";

const exactly = (value: number) => ({ value, low: value, high: value });

/** Contenders of whom both are known; nothing is drawn between them. */
export function worthTrade(rows: readonly WorthRow[], across: Across, up: Up): Trade {
  const points = rows.flatMap((row) => {
    const x = row[across];
    const y = row[up];
    return x === null || !y ? [] : [{ letter: row.letter, x: exactly(x), y }];
  });
  return { points, front: [], blends: [] } as unknown as Trade;
}
