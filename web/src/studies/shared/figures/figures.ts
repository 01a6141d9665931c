// What is seen on the wall or in the close look, as a figure of the report.
import { api, ask, type Shape } from "@/api/client";
import { keys } from "@/api/keys";
import { useAct } from "@/shared/lib/useAct";
import type { Size, View } from "@/viewer/geometry";
import { type Light, lightWords } from "@/viewer/light";

export type Figure = Shape["FigureIn"];
type Kind = Exclude<Figure["kind"], "">;

/** A page's room for a row of crops (core.articles.figures), px. */
const ROOM = { width: 1020, height: 330, gap: 8, ground: 12 };
const ABREAST = 6;
const LEAST = 8;

interface Seen {
  frame: { id: number; picture: Size };
  view: View;
  /** Of a pane. */
  pane: Size;
  letters: readonly string[];
  light: Light;
  /** The use that it is seen in; empty as made. */
  use: string;
  differs?: { against: string; kind: Kind; gain: number };
}

/** The part of a view that stands whole on a page at the view's own magnification. */
export function partOnPage(
  view: View,
  pane: Size,
  frame: Size,
  count: number,
): { x: number; y: number; w: number; h: number } {
  const beside = Math.ceil(count / Math.ceil(count / ABREAST));
  const room = (ROOM.width - (beside - 1) * ROOM.gap) / beside - ROOM.ground;
  const side = (seen: number, fits: number, whole: number) =>
    Math.min(whole, Math.max(LEAST, Math.floor(Math.min(seen, fits) / view.zoom)));
  const w = side(pane.width, room, frame.width);
  const h = side(pane.height, ROOM.height, frame.height);
  const from = (middle: number, size: number, whole: number) =>
    Math.min(whole - size, Math.max(0, Math.round(middle - size / 2)));
  return { x: from(view.x, w, frame.width), y: from(view.y, h, frame.height), w, h };
}

/** A close look's view as a figure; or why it can be none. */
export function figureOf(seen: Seen): Figure | string {
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
    frame: seen.frame.id,
    ...partOnPage(seen.view, seen.pane, seen.frame.picture, letters.length),
    letters,
    zoom: seen.view.zoom,
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

export function useFigures(study: () => number) {
  const { act, busy } = useAct(() => [keys.part(study(), "report")]);
  return {
    busy,
    take: (body: Figure) =>
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
