// What a job that ended makes stale, by its kind and the study that it was about.
import { type Key, keys } from "@/api/keys";

const MEASURED = [
  "page",
  "readings",
  "audit",
  "answers",
  "summary",
  "standings",
  "tradeoff",
  "curves",
] as const;
const OF_FRAMES: readonly Key[] = [keys.frames, ["frame"], ["scenes"], ["targets"]];
const NOTHING = new Set(["export", "layers", "full depth", "push"]);

export interface Ended {
  kind: string;
  study: number | null;
}

/** The keys below which things are to be read again. */
export function staleAfter({ kind, study }: Ended): readonly Key[] {
  if (NOTHING.has(kind)) return [];
  const whole: Key = study === null ? ["study"] : keys.study(study);
  switch (kind) {
    case "measure":
      return study === null
        ? [whole]
        : [...MEASURED.map((part) => keys.part(study, part)), ["examination"]];
    case "series":
      return study === null ? [whole] : [keys.part(study, "series")];
    case "sensor":
      return [["bodies"], ["sensor"]];
    case "suggest":
      return [["suggestions"]];
    case "publish":
      return [whole, keys.studies, ["reports"]];
    case "display":
      return OF_FRAMES;
    case "run":
    case "match folder":
    case "compare preview":
    case "write inputs":
      return [whole, ["folder"], ["runs"], keys.studies];
    default:
      // Files came, or frames were made: they may stand anywhere.
      return [whole, ...OF_FRAMES, ["folder"], ["runs"], keys.studies, ["bodies"]];
  }
}
