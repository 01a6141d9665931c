// What is seen on the wall or in the close look, as a figure of the report.
import { api, ask, type Shape } from "@/api/client";
import { keys } from "@/api/keys";
import { useAct } from "@/shared/lib/useAct";
import type { Size, View } from "@/viewer/geometry";
import { AS_MADE, type Light, lightWords, OF_NEIGHBOURS, PLANE_WORDS } from "@/viewer/light";

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
  /** The use that it is seen in, and where one that shows a part looks; none as made. */
  use?: { id: string; centre: { x: number; y: number } } | undefined;
  differs?: { against: string; kind: Kind; gain: number } | undefined;
  /** What lies right of a boundary, and where that is: a share of the width. */
  over?: { against: string; at: number } | undefined;
}

const RARELY = 0.05; // of the width: a boundary at the very edge shows one of two

/** A view as a figure; or why it can be none. */
export function figureOf(seen: Seen): Taken | string {
  const { differs, over } = seen;
  const against = differs?.against ?? over?.against ?? "";
  const letters = [...new Set(seen.letters)].filter((l) => l !== against);
  if (!letters.length) return `Nothing but ${against} itself is in view. Show another contender.`;
  if (over && letters.length > 1)
    return `A boundary parts two contenders. Show ${letters[0]} alone over ${against}.`;
  // What is seen in a use is not lit otherwise.
  const light = seen.use ? AS_MADE : seen.light;
  // Lifted light and planes are what a figure has; of all else this tells.
  const other = lightWords(
    { ...light, lift: 0, plane: differs ? light.plane : "all" },
    light.match !== "none",
  );
  if (other)
    return `A figure shows outputs as made, lifted, a plane of them, or what differs. This view also has: ${other}.`;
  const share = Math.min(1 - RARELY, Math.max(RARELY, over?.at ?? 0));
  return {
    frame: seen.frame,
    ...seen.part,
    letters: over ? [...letters, over.against] : letters,
    zoom: seen.zoom,
    trim: seen.trim,
    lift: differs || OF_NEIGHBOURS.includes(light.plane) ? 0 : light.lift,
    plane: light.plane,
    ...(differs ?? {
      against: "",
      kind: "" as const,
      gain: light.plane === "all" ? 1 : light.gain,
    }),
    seen_as: seen.use?.id ?? "",
    ...(seen.use ? { centre: [seen.use.centre.x, seen.use.centre.y] } : {}),
    ...(over ? { over: Number(share.toFixed(3)) } : {}),
  };
}

/** A frame as a whole, with its patches marked, as a contender has it. */
export const markedFrame = (frame: { id: number; picture: Size }, letter: string): Taken => ({
  frame: frame.id,
  x: 0,
  y: 0,
  w: frame.picture.width,
  h: frame.picture.height,
  letters: [letter],
  lift: 0,
  against: "",
  kind: "",
  gain: 1,
  trim: false,
  seen_as: "",
  marked: true,
});

/** What a figure shows, in words. */
export function figureWords(figure: Figure, frame: string): string {
  const { lift, against, kind, gain, plane = "all", use, over, letters } = figure;
  const kinds = { brightness: "brightness", absolute: "channels", de00: "CIEDE2000" };
  const shown = kind
    ? `difference from ${against}, ${kinds[kind]}, × ${gain}`
    : use
      ? `as seen in use: ${use.name}`
      : [
          lift ? `${lift > 0 ? "lifted" : "lowered"} by ${Math.abs(lift)} EV` : "",
          plane === "all" ? "" : PLANE_WORDS[plane],
        ]
          .filter(Boolean)
          .join(", ") || "as made";
  if (figure.marked) return `${frame} as ${letters[0]} has it, its patches marked`;
  const who = over ? `${letters[0]} over ${letters[1]}` : letters.join(", ");
  return `${who}: ${figure.w} × ${figure.h} px of ${frame}, ${shown}`;
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
