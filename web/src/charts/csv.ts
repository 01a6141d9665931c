// A chart's numbers as a CSV file that needs no server.
export interface Column {
  name: string;
  x: readonly number[];
  y: readonly number[];
}

function quoted(text: string): string {
  return `"${text.replaceAll('"', '""')}"`;
}

export function csvAddress(curves: readonly Column[], xUnit: string, yUnit: string): string {
  const lines = [`curve,${quoted(xUnit)},${quoted(yUnit)}`];
  for (const curve of curves)
    curve.x.forEach((x, i) => lines.push(`${quoted(curve.name)},${x},${curve.y[i]}`));
  return addressOf(lines);
}

/** Text that a spreadsheet would take for a formula is told as text. */
function harmless(text: string): string {
  return /^[=+\-@\t\r]/.test(text) && Number.isNaN(Number(text)) ? `'${text}` : text;
}

/** Rows of text as such a file. */
export function csvOf(rows: readonly (readonly string[])[]): string {
  return addressOf(rows.map((row) => row.map((cell) => quoted(harmless(cell))).join(",")));
}

function addressOf(lines: readonly string[]): string {
  return `data:text/csv;charset=utf-8,${encodeURIComponent(lines.join("\r\n"))}`;
}
