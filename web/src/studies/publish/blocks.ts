// The blocks of a report as they are moved, added and removed.
import type { Shape } from "@/api/client";

export type Block = Shape["BlockIn"];
export type BlockKind = Shape["BlockKindOut"];

export type Texts = Shape["ReportIn"];
export type Choice = Shape["TableIn"];
const WORDED = new Set(["heading", "text", "table", "chart", "reply"]);
export const NOTHING: Choice = { measures: [], places: [], letters: [] };
/** Whether a block shows readings that its author chooses. */
export const isChosen = (kind: string): boolean => kind === "table" || kind === "chart";

/** With one moved by a number of places, as far as there are any. */
export function moved(blocks: readonly Block[], from: number, by: number): Block[] {
  const to = Math.min(blocks.length - 1, Math.max(0, from + by));
  const rest = blocks.filter((_, i) => i !== from);
  const block = blocks[from];
  return block ? [...rest.slice(0, to), block, ...rest.slice(to)] : [...blocks];
}

/** With another after a place. */
export function added(blocks: readonly Block[], kind: string, after: number): Block[] {
  const block: Block = {
    kind,
    ...(WORDED.has(kind) ? { text: "" } : {}),
    ...(isChosen(kind) ? { table: { ...NOTHING } } : {}),
  };
  return [...blocks.slice(0, after + 1), block, ...blocks.slice(after + 1)];
}

/** Kinds that can be added: the author's own always, others where they do not stand yet. */
export const addable = (kinds: readonly BlockKind[], blocks: readonly Block[]): BlockKind[] =>
  // A figure comes from where it is seen.
  kinds
    .filter((k) => k.id !== "figure")
    .filter((k) => k.own || !blocks.some((b) => b.kind === k.id));

/** The order in words, the author's own words within. */
export const orderIn = (blocks: readonly Block[], kinds: readonly BlockKind[]): string =>
  blocks
    .map((b) => {
      const title = kinds.find((k) => k.id === b.kind)?.title ?? b.kind;
      const words = (b.text ?? "").replace(/<[^>]*>/g, " ").trim();
      return words ? `${title}: ${words}` : title;
    })
    .join("; ");

const SHORT = 60; // letters of a block's own words

/** Parts of the report that a comment may be about, by name; the first is all of it. */
export function placesOf(
  blocks: readonly Block[],
  kinds: readonly BlockKind[],
): { title: string; value: string }[] {
  const names = ["Summary", "Method", "Disclosure", ...blocks.map((b) => nameOf(b, kinds))];
  return [
    { title: "The whole report", value: "" },
    ...[...new Set(names)].map((name) => ({ title: name, value: name })),
  ];
}

function nameOf(block: Block, kinds: readonly BlockKind[]): string {
  const title = kinds.find((k) => k.id === block.kind)?.title ?? block.kind;
  const words = (block.text ?? "")
    .replace(/<[^>]*>/g, " ")
    .replace(/\s+/g, " ")
    .trim();
  if (!words) return title;
  return `${title}: ${words.length > SHORT ? `${words.slice(0, SHORT).trimEnd()}…` : words}`;
}
