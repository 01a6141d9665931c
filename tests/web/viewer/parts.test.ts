import { type Drawing, tileAddress } from "@/viewer/drawing";
import { IDENTITY, tilesInView } from "@/viewer/geometry";
import type { Layer } from "@/viewer/layers";
import { partOf } from "@/viewer/parts";

const picture = { id: 7, width: 6000, height: 4000, levels: 5 };
const layer = (wholeTiles: boolean): Layer => ({
  key: "lift",
  planes: 3,
  wholeTiles,
  address: (l, c, r) => `${l}/${c}_${r}`,
  paint: () => undefined,
});
const drawing = (of: Partial<Drawing>): Drawing => ({
  picture,
  mapping: IDENTITY,
  view: { x: 3000, y: 2000, zoom: 2 },
  layer: null,
  ...of,
});
const CANVAS = { width: 168, height: 150 };

describe("a crop's part", () => {
  it("is little more than what is seen, and drawn where the whole is", () => {
    const part = partOf(drawing({}), CANVAS);
    expect(part).toBeDefined();
    if (!part) return;
    const { width, height } = part.picture;
    expect(width * height).toBeLessThan(3 * 84 * 75);
    const [whole] = tilesInView(drawing({}).view, IDENTITY, picture, CANVAS, 0);
    const [tile] = tilesInView(
      part.view,
      part.mapping,
      part.picture,
      CANVAS,
      0,
    );
    // Its corner lies as many device pixels from the tile's as the address says.
    const address = tileAddress(part.picture, 0, 0, 0);
    const [x = 0, y = 0, w, h] = (
      /parts\/(\d+)_(\d+)_(\d+)_(\d+)\.png$/.exec(address) ?? []
    )
      .slice(1)
      .map(Number);
    expect([w, h]).toEqual([width, height]);
    expect((tile?.left ?? 0) - (whole?.left ?? 0)).toBe(
      2 * (x - 512 * (whole?.column ?? 0)),
    );
    expect((tile?.top ?? 0) - (whole?.top ?? 0)).toBe(
      2 * (y - 512 * (whole?.row ?? 0)),
    );
    expect(tile?.left).toBeLessThanOrEqual(0);
    expect(tile?.right).toBeGreaterThanOrEqual(CANVAS.width);
  });
  it("stays within the picture, and the same while a window grows a little", () => {
    const corner = drawing({ view: { x: 5, y: 3998, zoom: 2 } });
    const address = (w: number) =>
      tileAddress(partOf(corner, { width: w, height: 150 })!.picture, 0, 0, 0);
    expect(address(168)).toBe("/api/pictures/7/parts/0_3936_64_64.png");
    expect(address(172)).toBe(address(168));
  });
  it("follows how an output lies", () => {
    const part = partOf(
      drawing({
        mapping: { sx: 2, sy: 2, dx: 10, dy: -6 },
        view: { x: 1000, y: 900, zoom: 4 },
      }),
      CANVAS,
    );
    // 84 x 75 px of the output about 2010, 1794.
    expect(tileAddress(part!.picture, 0, 0, 0)).toContain("/parts/1952_1728_");
    expect(part!.mapping.dx).toBe(10 - 1952);
  });
  it("is asked for at full depth where a light needs that, unless by whole tiles", () => {
    const lit = partOf(drawing({ layer: layer(false) }), CANVAS);
    expect(lit?.layer?.address(0, 0, 0)).toMatch(
      /^\/api\/pictures\/7\/full-depth\/parts\/\d/,
    );
    expect(partOf(drawing({ layer: layer(true) }), CANVAS)).toBeUndefined();
  });
  it.each([
    ["reduced", { view: { x: 3000, y: 2000, zoom: 0.5 } }, CANVAS],
    ["larger than a tile", {}, { width: 1400, height: 900 }],
    ["not on the picture", { view: { x: -900, y: 0, zoom: 2 } }, CANVAS],
    ["without room", {}, { width: 0, height: 0 }],
  ])("is none where it is %s", (_, of, canvas) =>
    expect(partOf(drawing(of), canvas)).toBeUndefined(),
  );
});
