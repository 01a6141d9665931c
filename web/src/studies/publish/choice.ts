// Readings that an author chooses: for a table or a chart, and within a text.
import type { Choice } from "./blocks";

export interface NamedMeasure {
  id: string;
  name: string;
}
interface Patch {
  id: number;
  name: string;
  frame: number;
}
interface Frame {
  id: number;
  name: string;
}
export interface PlaceItem {
  value: string;
  title: string;
}

const keyOf = (frame: number, patch: number | null): string => `${frame}/${patch ?? ""}`;

/** The patches of each frame, and the whole of it. */
export function placeItems(frames: readonly Frame[], patches: readonly Patch[]): PlaceItem[] {
  return frames.flatMap((f) => [
    ...patches
      .filter((p) => p.frame === f.id)
      .map((p) => ({ value: keyOf(f.id, p.id), title: `${p.name}, ${f.name}` })),
    { value: keyOf(f.id, null), title: `Whole frame, ${f.name}` },
  ]);
}

export const placeKeys = (choice: Choice): string[] =>
  choice.places.map((p) => keyOf(p.frame, p.patch ?? null));

export function choiceOf(
  measures: readonly string[],
  places: readonly string[],
  letters: readonly string[],
  matched = false,
): Choice {
  return {
    ...(matched ? { matched } : {}),
    measures: [...measures],
    places: places.map((key) => {
      const [frame, patch] = key.split("/");
      return { frame: Number(frame), patch: patch ? Number(patch) : null };
    }),
    letters: [...letters],
  };
}

/** What a block shows, in words. */
export function choiceWords(
  choice: Choice,
  measures: readonly NamedMeasure[],
  places: readonly PlaceItem[],
): string {
  const rows = choice.measures.length * choice.places.length;
  if (!rows || !choice.letters.length) return "Nothing is chosen yet; editions leave it out.";
  const names = choice.measures.map((id) => measures.find((m) => m.id === id)?.name ?? id);
  const where = placeKeys(choice).map(
    (key) => places.find((p) => p.value === key)?.title ?? "a place that is gone",
  );
  const basis = choice.matched ? "; matched" : "";
  return `${some(names)}; ${some(where)}; ${choice.letters.join(", ")}${basis}`;
}

const some = (names: readonly string[]): string =>
  names.length > 3
    ? `${names.slice(0, 2).join(", ")} and ${names.length - 2} more`
    : names.join(", ");

/** What stands in a text for a reading, as long as nothing is published. */
export const asking = (letter: string, measure: string, place: string): string =>
  `{${letter} ${measure}, ${place}}`;
