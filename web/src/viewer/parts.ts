// A crop needs no whole tiles: the part of an output that it shows, asked for alone and drawn as a
// picture of its own.
import type { Drawing } from "./drawing";
import { mappingAt, outputScale, type Size, TILE, turnAt } from "./geometry";

/** Parts begin and end on such steps, so that a window that grows a little asks for nothing. */
const STEP = 32;
/** Neighbours, for what is drawn between pixels. */
const RIM = 2;

/** The same drawing from its part alone; nothing where whole tiles serve better. */
export function partOf(drawing: Drawing, canvas: Size): Drawing | undefined {
  const { picture, mapping, view, layer } = drawing;
  const lies = mappingAt(mapping, view.x, view.y);
  const { kx, ky } = outputScale(view, lies);
  if (Math.min(kx, ky) < 1 || !canvas.width || layer?.wholeTiles) return undefined;
  const lean = Math.abs(turnAt(mapping, view.x, view.y)) * Math.max(canvas.width, canvas.height);
  const [x, w] = span(lies.sx * view.x + lies.dx, (canvas.width + lean) / kx, picture.width);
  const [y, h] = span(lies.sy * view.y + lies.dy, (canvas.height + lean) / ky, picture.height);
  if (w < 1 || h < 1 || w > TILE || h > TILE) return undefined;
  const name = `${x}_${y}_${w}_${h}`;
  const base = `/api/pictures/${picture.id}`;
  return {
    view,
    picture: {
      ...{ id: picture.id, width: w, height: h, levels: 1 },
      address: () => `${base}/parts/${name}.png`,
    },
    mapping: { ...mapping, dx: mapping.dx - x, dy: mapping.dy - y },
    layer: layer && { ...layer, address: () => `${base}/full-depth/parts/${name}` },
  };
}

/** Where a part begins, and how far it reaches, px of the output. */
function span(middle: number, room: number, size: number): [number, number] {
  const from = Math.floor((middle - room / 2 - RIM) / STEP) * STEP;
  const to = Math.ceil((middle + room / 2 + RIM) / STEP) * STEP;
  const [first, end] = [Math.max(0, from), Math.min(size, to)];
  return [first, end - first];
}
