// A chart's numbers as the rows of a table: curves over the same places side by side, others one
// below the other.
import type { Column } from "./csv";

export interface Table {
  /** Whether the first column holds the curves' names. */
  named: boolean;
  head: string[];
  rows: string[][];
}

const told = (value: number | undefined): string =>
  value === undefined || !Number.isFinite(value) ? "–" : String(Number(value.toPrecision(4)));

function shareTheirPlaces(curves: readonly Column[]): boolean {
  const first = curves[0];
  return curves.every(
    (c) => c.x.length === first?.x.length && c.x.every((x, i) => x === first.x[i]),
  );
}

export function tableOf(curves: readonly Column[], xUnit: string, yUnit: string): Table {
  const only = curves[0];
  if (only && shareTheirPlaces(curves))
    return {
      named: false,
      head: [xUnit, ...curves.map((c) => (curves.length > 1 ? c.name : yUnit))],
      rows: only.x.map((x, i) => [told(x), ...curves.map((c) => told(c.y[i]))]),
    };
  return {
    named: true,
    head: ["", xUnit, yUnit],
    rows: curves.flatMap((c) => c.x.map((x, i) => [c.name, told(x), told(c.y[i])])),
  };
}
