// One picture drawn at a view of its frame: lossless tiles, or what a layer makes of full-depth
// ones; pixels stay pixels above 100 %.
import {
  levelFor,
  type Mapping,
  mappingAt,
  outputScale,
  type Size,
  type Tile,
  tilesInView,
  turnAt,
  type View,
} from "./geometry";
import { type Layer, layerTile } from "./layers";
import { stepsAhead, tile, tileAhead } from "./tiles";

export interface Shown extends Size {
  id: number;
  levels: number;
  /** Where a tile of it is, if not among the pictures'. */
  address?: (level: number, column: number, row: number) => string;
}

export interface Drawing {
  picture: Shown;
  /** How it lies, with what bends it. */
  mapping: Mapping;
  view: View;
  layer: Layer | null;
}

type Pen = CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D;
type Held = ReadonlyMap<string, CanvasImageSource>;

export interface Outcome {
  /** Whether all that is in view was there. */
  complete: boolean;
  level: number;
  /** Painted tiles that were used: a canvas keeps those that it shows. */
  used: Map<string, CanvasImageSource>;
}

export const tileAddress = (picture: Shown, level: number, column: number, row: number): string =>
  picture.address?.(level, column, row) ??
  `/api/pictures/${picture.id}/tiles/${level}/${column}_${row}.png`;

/** Draw into a canvas of a size from its corner on; `arrived` is called as missing tiles come. */
export function drawInto(
  pen: Pen,
  size: Size,
  drawing: Drawing,
  held: Held,
  arrived: () => void,
): Outcome {
  const { picture, view, layer } = drawing;
  // Exact at the middle of the view: a bent output shows the same detail there, and a turned one
  // upright.
  const mapping = mappingAt(drawing.mapping, view.x, view.y);
  const used = new Map<string, CanvasImageSource>();
  const asMade = (t: Tile) => tile(tileAddress(picture, t.level, t.column, t.row), arrived);
  const drawable = (t: Tile): CanvasImageSource | undefined => {
    if (!layer) return asMade(t);
    const key = `${layer.address(t.level, t.column, t.row)} ${layer.key}`;
    const image = held.get(key) ?? layerTile(layer, picture, t, arrived);
    if (image) used.set(key, image);
    return image;
  };
  pen.save();
  const margin = straighten(pen, size, turnAt(drawing.mapping, view.x, view.y));
  const room = { width: size.width + 2 * margin, height: size.height + 2 * margin };
  const { kx } = outputScale(view, mapping);
  const level = levelFor(kx, picture.levels);
  pen.imageSmoothingEnabled = kx * 2 ** level < 1;
  pen.imageSmoothingQuality = "high";
  const found = tilesInView(view, mapping, picture, room, level).map(
    (t) => [t, drawable(t)] as const,
  );
  const complete = found.every(([, image]) => image);
  // While finer tiles are on their way, the one coarsest tile stands in.
  if (!complete)
    for (const t of tilesInView(view, mapping, picture, room, picture.levels - 1)) {
      const image = drawable(t) ?? (layer?.planes === 1 ? undefined : asMade(t));
      if (image) put(pen, t, image);
    }
  for (const [t, image] of found) if (image) put(pen, t, image);
  pen.restore();
  return { complete, level, used };
}

/** How far about a view its tiles are asked for ahead: a step of the arrow keys and more, px. */
const REACH = 320;

/** Ask for what lies about the view, so that it is there once one moves on. */
export function askAhead(size: Size, { picture, view, layer, ...drawing }: Drawing): void {
  const mapping = mappingAt(drawing.mapping, view.x, view.y);
  const room = { width: size.width + 2 * REACH, height: size.height + 2 * REACH };
  const level = levelFor(outputScale(view, mapping).kx, picture.levels);
  for (const t of tilesInView(view, mapping, picture, room, level))
    if (layer) stepsAhead(layer.address(t.level, t.column, t.row));
    else tileAhead(tileAddress(picture, t.level, t.column, t.row));
}

/** Draw all of it, however long its tiles take. */
export function drawnWhole(pen: Pen, size: Size, drawing: Drawing): Promise<void> {
  return new Promise((done) => {
    let held: Held = new Map();
    const draw = (): void => {
      const { complete, used } = drawInto(pen, size, drawing, held, draw);
      held = used;
      if (complete) done();
    };
    draw();
  });
}

function put(pen: Pen, t: Tile, image: CanvasImageSource): void {
  pen.drawImage(image, t.left, t.top, t.right - t.left, t.bottom - t.top);
}

/**
 * Turn the canvas so that a turned output stands upright; returns how far its corners then reach
 * beyond it.
 */
function straighten(pen: Pen, { width, height }: Size, turn: number): number {
  const reach = (Math.abs(turn) * Math.max(width, height)) / 2;
  if (reach < 0.5) return 0;
  const margin = Math.ceil(reach) + 1;
  pen.translate(width / 2, height / 2);
  pen.rotate(-turn);
  pen.translate(-width / 2 - margin, -height / 2 - margin);
  return margin;
}
