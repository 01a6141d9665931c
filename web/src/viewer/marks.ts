// How much of what is in view is cut off, or beyond sRGB: what marks stand on.
import { tileSize } from "./depth";
import { inView } from "./differences";
import type { Drawing } from "./drawing";
import { mappingAt, type Size, type Tile, tilesInView } from "./geometry";
import { isAtBottom, isAtTop, isBeyond } from "./light";

/** Shares of the pixels in view. */
export interface Marked {
  top: number;
  bottom: number;
  beyond: number;
}

/** Of whole pixels of the level that is drawn; nothing while a tile is missing. */
export function markedInView(
  { picture, mapping, view }: Drawing,
  canvas: Size,
  level: number,
  read: (tile: Tile) => Uint16Array | undefined,
): Marked | undefined {
  const lies = mappingAt(mapping, view.x, view.y);
  const share = 2 ** level;
  const found = { top: 0, bottom: 0, beyond: 0 };
  let pixels = 0;
  for (const tile of tilesInView(view, lies, picture, canvas, level)) {
    const steps = read(tile);
    if (!steps) return undefined;
    const { width, height } = tileSize(picture, level, tile.column, tile.row);
    const [kx, ky] = [view.zoom / lies.sx, view.zoom / lies.sy];
    const across = inView(lies.sx * view.x + lies.dx, canvas.width / kx, share, tile.column, width);
    const down = inView(lies.sy * view.y + lies.dy, canvas.height / ky, share, tile.row, height);
    for (let y = down.from; y < down.to; y++)
      for (let x = across.from; x < across.to; x++) {
        const at = y * width + x;
        const r = steps[at] ?? 0;
        const g = steps[at + width * height] ?? 0;
        const b = steps[at + 2 * width * height] ?? 0;
        pixels++;
        if (isAtTop(r, g, b)) found.top++;
        else if (isAtBottom(r, g, b)) found.bottom++;
        if (isBeyond(r, g, b)) found.beyond++;
      }
  }
  if (!pixels) return undefined;
  const { top, bottom, beyond } = found;
  return { top: top / pixels, bottom: bottom / pixels, beyond: beyond / pixels };
}

/** A share in words: nothing is nothing, and little is not. */
export function shareWords(share: number): string {
  if (!share) return "none";
  const percent = 100 * share;
  return percent < 0.01 ? "< 0.01 %" : `${Number(percent.toPrecision(2))} %`;
}
