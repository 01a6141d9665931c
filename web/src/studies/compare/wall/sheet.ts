// A contact sheet drawn: crops of what the wall shows, with letters, names and magnification.
import type { Contender, Output } from "@/api/types";
import { colourOf } from "@/shared/lib/letters";
import { withPpi } from "@/shared/lib/png";
import { named } from "@/shared/lib/words";
import { drawnWhole } from "@/viewer/drawing";
import { IDENTITY, percent } from "@/viewer/geometry";
import { type Light, lightLayer, lightWords } from "@/viewer/light";

import { type Format, type Placed, type Plan, planOf } from "./sheetPlan";
import type { Spot } from "./spots";

export interface SheetRow {
  spot: Spot;
  crops: readonly SheetCrop[];
}

export interface SheetCrop {
  contender: Contender;
  output: Output;
  /** Its reading as the wall tells it. */
  reading: string;
}

export interface Wanted {
  format: Format;
  zoom: number;
  light: Light;
  readings: boolean;
  heading: string;
  source: string;
}

type Pen = OffscreenCanvasRenderingContext2D;
const [INK, SOFT, PAPER, SURROUND] = ["#14171a", "#5c6161", "#f4f4f2", "#777777"];

export const sheetPlan = (rows: readonly SheetRow[], wanted: Wanted): Plan | undefined =>
  planOf(
    wanted.format,
    rows.map(({ spot, crops }) => ({ w: spot.w, h: spot.h, crops: crops.length })),
    wanted.zoom,
    wanted.readings,
  );

/** What stands below all crops: how large they are, what they are of. */
export function footWords(plan: Plan, { light, source }: Wanted): string {
  const cut = plan.cut ? ", each the middle of its patch" : "";
  const under = lightWords(light, light.match !== "none");
  return [`Subject at ${percent(plan.zoom)}${cut}`, under, source].filter(Boolean).join(". ");
}

export async function drawnSheet(
  rows: readonly SheetRow[],
  plan: Plan,
  wanted: Wanted,
): Promise<Blob> {
  const { format, heading } = wanted;
  const sheet = new OffscreenCanvas(format.width, format.height);
  const pen = sheet.getContext("2d", { alpha: false, colorSpace: "srgb" });
  if (!pen) throw new Error("this browser can not draw pictures");
  const { unit } = plan;
  pen.fillStyle = PAPER ?? "";
  pen.fillRect(0, 0, format.width, format.height);
  pen.textBaseline = "top";
  const room = format.width - 4 * unit;
  write(pen, heading, 2 * unit, 1.6 * unit, 1.3 * unit, room, { weight: 600 });
  for (const { row, x, y } of plan.titles) {
    const spot = rows[row]?.spot;
    if (spot) write(pen, `${spot.title}, ${spot.sub}`, x, y, unit, room, { weight: 600 });
  }
  for (const place of plan.placed) await exhibit(pen, rows, place, plan, wanted);
  const foot = format.height - 2.4 * unit;
  write(pen, footWords(plan, wanted), 2 * unit, foot, 0.9 * unit, room, { ink: SOFT });
  const png = await sheet.convertToBlob({ type: "image/png" });
  return format.ppi ? withPpi(png, format.ppi) : png;
}

async function exhibit(
  pen: Pen,
  rows: readonly SheetRow[],
  { row, crop, x, y, width, height }: Placed,
  plan: Plan,
  { light, readings }: Wanted,
): Promise<void> {
  const { spot, crops } = rows[row] ?? {};
  const shown = crops?.[crop];
  if (!spot || !shown) return;
  const { output, contender, reading } = shown;
  if (output.picture) {
    const own = new OffscreenCanvas(width, height);
    const ownPen = own.getContext("2d", { alpha: false, colorSpace: "srgb" });
    if (!ownPen) return;
    ownPen.fillStyle = SURROUND ?? "";
    ownPen.fillRect(0, 0, width, height);
    await drawnWhole(ownPen, own, {
      picture: output.picture,
      mapping: output.lineup ?? IDENTITY,
      view: { x: spot.x + spot.w / 2, y: spot.y + spot.h / 2, zoom: plan.zoom },
      layer: lightLayer(output.picture.id, light, output.tone),
    });
    pen.drawImage(own, x, y);
  }
  const { unit } = plan;
  const below = y + height + 0.35 * unit;
  letter(pen, contender.letter, x, below, 1.4 * unit);
  write(pen, named(contender), x + 1.9 * unit, below + 0.2 * unit, unit, plan.across - 1.9 * unit);
  if (readings) write(pen, reading, x, below + 1.7 * unit, 0.9 * unit, plan.across, { ink: SOFT });
}

function letter(pen: Pen, text: string, x: number, y: number, side: number): void {
  const colour = colourOf(text);
  pen.fillStyle = colour || (PAPER ?? "");
  pen.fillRect(x, y, side, side);
  if (!colour) {
    pen.strokeStyle = INK ?? "";
    pen.lineWidth = Math.max(1, side / 14);
    pen.strokeRect(x + 0.75, y + 0.75, side - 1.5, side - 1.5);
  }
  pen.save();
  pen.textAlign = "center";
  pen.textBaseline = "middle";
  write(pen, text, x + side / 2, y + side / 2, 0.68 * side, side, {
    weight: 600,
    ink: colour ? "#ffffff" : INK,
  });
  pen.restore();
}

function write(
  pen: Pen,
  text: string,
  x: number,
  y: number,
  size: number,
  room: number,
  { weight = 400, ink = INK }: { weight?: number; ink?: string | undefined } = {},
): void {
  pen.fillStyle = ink ?? "";
  pen.font = `${weight} ${size}px ${getComputedStyle(document.body).fontFamily}`;
  let words = text;
  while (words.length > 1 && pen.measureText(words).width > room)
    words = `${words.replace(/…$/, "").slice(0, -1)}…`;
  pen.fillText(words, x, y);
}
