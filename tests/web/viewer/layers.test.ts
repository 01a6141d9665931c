import type { layerTile as LayerTile } from "@/viewer/layers";

const there = new Map<string, Uint16Array>();
const arrived = () => undefined;
let layerTile: typeof LayerTile;
let puts: number;

beforeEach(async () => {
  vi.resetModules();
  there.clear();
  puts = 0;
  vi.doMock("@/viewer/tiles", () => ({
    steps: (address: string) => there.get(address),
  }));
  vi.stubGlobal(
    "OffscreenCanvas",
    class {
      constructor(
        readonly width: number,
        readonly height: number,
      ) {}
      getContext = () => ({ putImageData: () => void puts++ });
    },
  );
  vi.stubGlobal(
    "ImageData",
    class {
      data: Uint8ClampedArray;
      constructor(width: number, height: number) {
        this.data = new Uint8ClampedArray(4 * width * height);
      }
    },
  );
  ({ layerTile } = await import("@/viewer/layers"));
});

const picture = { width: 20, height: 10 };
const layer = (key: string, planes: 1 | 3 = 1) => ({
  key,
  wholeTiles: false,
  planes,
  address: () => "a",
  paint: vi.fn(),
});
const first = { level: 0, column: 0, row: 0 };

describe("a layer's tile", () => {
  it("waits for its steps", () =>
    expect(layerTile(layer("x"), picture, first, arrived)).toBeUndefined());
  it("is painted once for each key", () => {
    there.set("a", new Uint16Array(200));
    const [one, same, other] = [layer("x"), layer("x"), layer("y")];
    const made = layerTile(one, picture, first, arrived);
    expect(made).toMatchObject({ width: 20, height: 10 });
    expect(layerTile(same, picture, first, arrived)).toBe(made);
    expect(layerTile(other, picture, first, arrived)).not.toBe(made);
    expect([one, same, other].map((l) => l.paint.mock.calls.length)).toEqual([
      1, 0, 1,
    ]);
    expect(puts).toBe(2);
  });
  it("is not painted from steps of another size", () => {
    there.set("a", new Uint16Array(200));
    expect(layerTile(layer("x", 3), picture, first, arrived)).toBeUndefined();
  });
  it("goes when there are too many, the one seen longest ago first", () => {
    there.set("a", new Uint16Array(200));
    const made = layerTile(layer("0"), picture, first, arrived);
    for (let i = 1; i < 96; i++)
      layerTile(layer(String(i)), picture, first, arrived);
    expect(layerTile(layer("0"), picture, first, arrived)).toBe(made);
    layerTile(layer("new"), picture, first, arrived);
    const again = layer("1");
    layerTile(again, picture, first, arrived);
    expect(again.paint).toHaveBeenCalledTimes(1);
    expect(layerTile(layer("0"), picture, first, arrived)).toBe(made);
  });
});
