// What is seen on the wall or in the close look, as a figure of the report.
import { api, ask, type Shape } from "@/api/client";
import { keys } from "@/api/keys";
import { useAct } from "@/shared/lib/useAct";
import type { Size, View } from "@/viewer/geometry";
import { type Light, lightWords } from "@/viewer/light";

export type Figure = Shape["FigureIn"];
/** A view on its way into the report. */
export type Taken = Shape["ViewIn"];
type Kind = Exclude<Figure["kind"], "">;

interface Part {
  x: number;
  y: number;
  w: number;
  h: number;
}

/** What a pane shows of its frame, px; it may reach beyond. */
export function partInView({ x, y, zoom }: View, pane: Size): Part {
  const [w, h] = [pane.width / zoom, pane.height / zoom];
  return { x: x - w / 2, y: y - h / 2, w, h };
}

interface Seen {
  frame: number;
  /** What is seen of it, px. */
  part: Part;
  zoom: number;
  /** Only what stands whole on a page at this magnification; the server knows a page's room. */
  trim: boolean;
  letters: readonly string[];
  light: Light;
  /** The use that it is seen in; empty as made. */
  use: string;
  differs?: { against: string; kind: Kind; gain: number };
}

/** A view as a figure; or why it can be none. */
export function figureOf(seen: Seen): Taken | string {
  const { light, differs } = seen;
  const against = differs?.against ?? "";
  const letters = [...new Set(seen.letters)].filter((l) => l !== against);
  if (!letters.length) return `Nothing but ${against} itself is in view. Show another contender.`;
  if (seen.use) return "A figure shows no use yet. Choose “as made” under Seen as.";
  // Lifted light is what a figure has; of all else this tells.
  const other = lightWords({ ...light, lift: 0 }, light.match !== "none");
  if (other)
    return `A figure shows outputs as made, lifted, or what differs. This view also has: ${other}.`;
  return {
    frame: seen.frame,
    ...seen.part,
    letters,
    zoom: seen.zoom,
    trim: seen.trim,
    lift: differs ? 0 : light.lift,
    ...(differs ?? { against: "", kind: "" as const, gain: 1 }),
  };
}

/** What a figure shows, in words. */
export function figureWords(figure: Figure, frame: string): string {
  const { lift, against, kind, gain } = figure;
  const kinds = { brightness: "brightness", absolute: "channels", de00: "CIEDE2000" };
  const shown = kind
    ? `difference from ${against}, ${kinds[kind]}, × ${gain}`
    : lift
      ? `${lift > 0 ? "lifted" : "lowered"} by ${Math.abs(lift)} EV`
      : "as made";
  return `${figure.letters.join(", ")}: ${figure.w} × ${figure.h} px of ${frame}, ${shown}`;
}

/** Readings that are seen, as a table or a chart of the report. */
export function useTables(study: () => number) {
  const { act, busy } = useAct(() => [keys.part(study(), "report")]);
  return {
    busy,
    take: (kind: "table" | "chart", table: Shape["TableIn"]) =>
      act(
        () =>
          ask(
            api.POST("/api/studies/{study_id}/report/tables", {
              params: { path: { study_id: study() } },
              body: { kind, table },
            }),
          ),
        `The ${kind} is in the report. Its caption is yours under Publish.`,
      ),
  };
}

export function useFigures(study: () => number) {
  const { act, busy } = useAct(() => [keys.part(study(), "report")]);
  return {
    busy,
    take: (body: Taken) =>
      act(
        () =>
          ask(
            api.POST("/api/studies/{study_id}/report/figures", {
              params: { path: { study_id: study() } },
              body,
            }),
          ),
        { done: (block) => `“${block.text}” is in the report.` },
      ),
  };
}
