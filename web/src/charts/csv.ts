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
  return `data:text/csv;charset=utf-8,${encodeURIComponent(lines.join("\r\n"))}`;
}
