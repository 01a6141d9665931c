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

/** "0.0026 EUR", "nothing", or a dash. */
export function costText(row: Pick<WorthRow, "amount" | "currency">): string {
  if (row.amount === null) return "–";
  if (row.amount === 0) return "nothing";
  return `${Number(row.amount.toPrecision(2))} ${row.currency}`.trim();
}

const MINUTE = 60;
const HOUR = 3600;

/** "42 s", "12 min", "3.5 h". */
export function waitText(seconds: number | null): string {
  if (seconds === null) return "–";
  if (seconds < MINUTE) return `${Number(seconds.toPrecision(2))} s`;
  if (seconds < HOUR) return `${Number((seconds / MINUTE).toPrecision(2))} min`;
  return `${Number((seconds / HOUR).toPrecision(2))} h`;
}
