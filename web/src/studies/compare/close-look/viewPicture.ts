// What the close look shows as one picture: panes at their pixels, with what they are burnt in.
import { colourOf } from "@/shared/lib/letters";

export interface ShownPane {
  letter: string;
  title: string;
  /** Magnification and light. */
  line: string;
  left: number;
  top: number;
  /** From the lowest up; `from` is the share of the width at which it begins. */
  canvases: readonly { canvas: HTMLCanvasElement; from: number }[];
}

const MARGIN = 16;
const TITLE = 40;
const CAPTION = 30;
const INK = "#14171a";
const PAPER = "#f4f4f2";

export interface Plan {
  width: number;
  height: number;
  /** Where each pane's picture begins. */
  places: { x: number; y: number }[];
}

/** Panes in their order on the screen, row by row, without anything between but captions. */
export function planOf(
  panes: readonly { left: number; top: number; width: number; height: number }[],
): Plan {
  const tops = [...new Set(panes.map((p) => p.top))].sort((a, b) => a - b);
  const places: Plan["places"] = [];
  let [y, width] = [MARGIN + TITLE, 0];
  for (const top of tops) {
    let x = MARGIN;
    let tallest = 0;
    const row = panes.map((p, i) => ({ ...p, i })).filter((p) => p.top === top);
    for (const p of row.sort((a, b) => a.left - b.left)) {
      places[p.i] = { x, y: y + CAPTION };
      x += p.width + MARGIN;
      tallest = Math.max(tallest, p.height);
    }
    width = Math.max(width, x);
    y += CAPTION + tallest + MARGIN;
  }
  return { width, height: y, places };
}

/** A PNG of it, tagged as sRGB by the canvas that it comes from. */
export async function viewPicture(title: string, panes: readonly ShownPane[]): Promise<Blob> {
  const sized = panes.map((p) => ({
    left: p.left,
    top: p.top,
    width: p.canvases[0]?.canvas.width ?? 0,
    height: p.canvases[0]?.canvas.height ?? 0,
  }));
  const plan = planOf(sized);
  const sheet = new OffscreenCanvas(plan.width, plan.height);
  const pen = sheet.getContext("2d", { alpha: false, colorSpace: "srgb" });
  if (!pen) throw new Error("this browser can not draw pictures");
  pen.fillStyle = PAPER;
  pen.fillRect(0, 0, plan.width, plan.height);
  pen.textBaseline = "middle";
  write(pen, title, MARGIN, MARGIN + TITLE / 2 - 6, "600 18px");
  panes.forEach((pane, i) => {
    const at = plan.places[i] ?? { x: 0, y: 0 };
    caption(pen, pane, at.x, at.y - CAPTION / 2 - 1);
    for (const { canvas, from } of pane.canvases) {
      const skip = Math.round(from * canvas.width);
      const rest = canvas.width - skip;
      if (rest > 0)
        pen.drawImage(canvas, skip, 0, rest, canvas.height, at.x + skip, at.y, rest, canvas.height);
    }
  });
  return sheet.convertToBlob({ type: "image/png" });
}

function caption(
  pen: OffscreenCanvasRenderingContext2D,
  pane: ShownPane,
  x: number,
  y: number,
): void {
  const colour = colourOf(pane.letter);
  pen.fillStyle = colour || PAPER;
  pen.fillRect(x, y - 10, 20, 20);
  if (!colour) {
    pen.strokeStyle = INK;
    pen.lineWidth = 1.5;
    pen.strokeRect(x + 0.75, y - 9.25, 18.5, 18.5);
  }
  pen.textAlign = "center";
  write(pen, pane.letter, x + 10, y + 1, "600 13px", colour ? "#ffffff" : INK);
  pen.textAlign = "left";
  write(pen, `${pane.title}   ${pane.line}`, x + 28, y + 1, "400 14px");
}

function write(
  pen: OffscreenCanvasRenderingContext2D,
  text: string,
  x: number,
  y: number,
  font: string,
  ink = INK,
): void {
  pen.fillStyle = ink;
  pen.font = `${font} ${getComputedStyle(document.body).fontFamily}`;
  pen.fillText(text, x, y);
}
