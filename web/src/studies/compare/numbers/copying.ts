// A table of numbers as text for other programs: tabs for spreadsheets, CSV, Markdown.
import type { Contender } from "@/api/types";
import type { NumberRow } from "@/shared/lib/numbers";
import { titled } from "@/shared/lib/words";

export type Lines = readonly (readonly string[])[];

/** A head, then a line a measure: its name, its unit, value and interval of each contender. */
export function linesOf(columns: readonly Contender[], rows: readonly NumberRow[]): Lines {
  const head = ["Measure", "Unit", ...columns.map((c) => `${c.letter} ${titled(c)}`)];
  const body = rows.map((row) => [
    row.measure.name,
    row.measure.unit,
    ...columns.map((c) => {
      const cell = row.cells.get(c.id);
      return cell && cell.value !== null ? `${cell.text} ${cell.spread}`.trim() : "";
    }),
  ]);
  return [head, ...body];
}

export const asTabs = (lines: Lines): string =>
  lines.map((l) => l.map((t) => t.replace(/[\t\r\n]+/g, " ")).join("\t")).join("\n");

// A text that begins like a formula would be one in a spreadsheet.
const safe = (text: string): string => (/^[=+@\t]|^-(?![\d.])/.test(text) ? `'${text}` : text);

export const asCsv = (lines: Lines): string =>
  lines.map((l) => l.map((t) => `"${safe(t).replaceAll('"', '""')}"`).join(",")).join("\r\n");

export function asMarkdown(lines: Lines): string {
  const [head = [], ...body] = lines.map((l) => l.map((t) => t.replaceAll("|", "\\|")));
  const rule = head.map((_, i) => (i < 2 ? ":---" : "---:"));
  return [head, rule, ...body].map((l) => `| ${l.join(" | ")} |`).join("\n");
}
