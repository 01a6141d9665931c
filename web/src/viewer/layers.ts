// What is drawn instead of a picture's display copy: tiles of full-depth steps, painted for the
// screen and kept while there is room.
import type { Tile } from "./geometry";
import { tileSize } from "./depth";
import { steps } from "./tiles";

export interface Layer {
  /** All that its painting depends on. */
  key: string;
  /** How many planes a tile of it has. */
  planes: 1 | 3;
  /** Whether parts of it can not be asked for alone. */
  wholeTiles: boolean;
  address: (level: number, column: number, row: number) => string;
  /** RGBA of `count` pixels from plane after plane of steps. */
  paint: (steps: Uint16Array, count: number, out: Uint8ClampedArray) => void;
}

type Painted = OffscreenCanvas;

const MOST = 96; // tiles of 1 MB each
const painted = new Map<string, Painted>();

/** A painted tile if it is there; if not, `arrived` is called once it can be painted. */
export function layerTile(
  layer: Layer,
  picture: { width: number; height: number },
  { level, column, row }: Pick<Tile, "level" | "column" | "row">,
  arrived: () => void,
): Painted | undefined {
  const address = layer.address(level, column, row);
  const key = `${address} ${layer.key}`;
  const known = painted.get(key);
  if (known) {
    painted.delete(key);
    painted.set(key, known);
    return known;
  }
  const there = steps(address, arrived);
  if (!there) return undefined;
  const { width, height } = tileSize(picture, level, column, row);
  if (there.length !== layer.planes * width * height) return undefined;
  const made = new OffscreenCanvas(width, height);
  const image = new ImageData(width, height, { colorSpace: "srgb" });
  layer.paint(there, width * height, image.data);
  made.getContext("2d", { colorSpace: "srgb" })?.putImageData(image, 0, 0);
  painted.set(key, made);
  const oldest = painted.keys().next().value;
  if (painted.size > MOST && oldest !== undefined) painted.delete(oldest);
  return made;
}
