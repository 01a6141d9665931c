import { tileSize } from "@/viewer/depth";
import {
  DE_TOP,
  differenceLayer,
  type Kind,
  NONE,
  numbersInView,
  numbersOf,
  SCALES,
} from "@/viewer/differences";
import { MID } from "@/viewer/light";
import { ramp } from "@/viewer/ramp";

const layer = (kind: Kind, gain: number) =>
  differenceLayer({
    one: 3,
    two: 5,
    kind,
    gain,
    match: "exposure",
    lie: "[1]",
  });

function painted(kind: Kind, gain: number, steps: readonly number[]): number[] {
  const out = new Uint8ClampedArray(4);
  layer(kind, gain).paint(Uint16Array.from(steps), 1, out);
  return [...out.slice(0, 3)];
}

describe("a difference", () => {
  it("is asked for by its two outputs, its kind, its match and how they lie", () => {
    const address = new URL(layer("de00", 1).address(1, 2, 3), "http://x");
    expect(address.pathname).toBe("/api/outputs/3/less/5/1/2_3");
    expect(Object.fromEntries(address.searchParams)).toEqual({
      kind: "de00",
      match: "exposure",
      lie: "[1]",
    });
  });
  it.each<[Kind, number, number[], number[]]>([
    ["brightness", 4, [32768], [MID, MID, MID]],
    ["brightness", 4, [32768 + 64 * 5], [MID + 20, MID + 20, MID + 20]],
    ["brightness", 32, [32768 - 64 * 5], [0, 0, 0]],
    ["brightness", 4, [NONE], [MID, MID, MID]],
    ["absolute", 2, [128, 1280, 0], [2, 20, 0]],
    ["absolute", 2, [NONE, NONE, NONE], [MID, MID, MID]],
    ["de00", 1, [0], [...ramp(0)]],
    ["de00", 1, [256 * DE_TOP], [...ramp(1)]],
    ["de00", 4, [256 * 2.5], [...ramp(0.5)]],
    ["de00", 1, [NONE], [MID, MID, MID]],
  ])("of %s × %i paints %j as %j", (kind, gain, steps, wanted) =>
    expect(painted(kind, gain, steps)).toEqual(wanted),
  );
  it("has a scale that only grows in lightness", () => {
    const light = (share: number) => {
      const [r, g, b] = ramp(share);
      return 0.2126 * r + 0.7152 * g + 0.0722 * b;
    };
    for (let i = 1; i <= 50; i++)
      expect(light(i / 50)).toBeGreaterThan(light((i - 1) / 50));
    expect([ramp(-1), ramp(2)]).toEqual([ramp(0), ramp(1)]);
  });
});

describe("its numbers", () => {
  it("are mean, sign and the 99th of a hundred of what was counted", () => {
    const counts = new Uint32Array(65536);
    const { zero, step } = SCALES.brightness;
    for (let i = 0; i < 100; i++) counts[zero + step * (i % 2 ? -i : i)]!++;
    counts[NONE] = 900;
    expect(numbersOf(counts, "brightness")).toEqual({
      mean: 49.5,
      p99: 98,
      bias: -0.5,
      pixels: 100,
    });
  });
  it("are none where nothing is compared", () =>
    expect(numbersOf(new Uint32Array(65536), "de00")).toBeUndefined());

  const frame = { width: 600, height: 40 };
  const read = ({
    level,
    column,
    row,
  }: {
    level: number;
    column: number;
    row: number;
  }) => {
    const { width, height } = tileSize(frame, level, column, row);
    return new Uint16Array(width * height).map(
      (_, i) => 256 * (column ? 3 : i % width),
    );
  };
  const seen = (
    view: { x: number; y: number; zoom: number },
    width: number,
    level = 0,
  ) => numbersInView("de00", view, frame, { width, height: 20 }, level, read);
  it("are of whole pixels whose middles are in view", () => {
    expect(seen({ x: 10, y: 20, zoom: 1 }, 8)).toMatchObject({
      pixels: 8 * 20,
      mean: 9.5,
    });
    expect(seen({ x: 10.4, y: 20, zoom: 4 }, 8)).toMatchObject({
      pixels: 2 * 5,
      mean: 9.5,
    });
  });
  it("go on across tiles, and end at the frame's edge", () => {
    expect(seen({ x: 512, y: 20, zoom: 1 }, 4)?.pixels).toBe(4 * 20);
    expect(seen({ x: 598, y: 20, zoom: 1 }, 20)).toMatchObject({
      pixels: 12 * 20,
      mean: 3,
    });
  });
  it("are of the level that is drawn", () =>
    expect(seen({ x: 20, y: 20, zoom: 0.5 }, 8, 1)).toMatchObject({
      pixels: 8 * 20,
      mean: 9.5,
    }));
  it("wait for every tile", () =>
    expect(
      numbersInView(
        "de00",
        { x: 512, y: 20, zoom: 1 },
        frame,
        { width: 9, height: 9 },
        0,
        (t) => (t.column ? undefined : read(t)),
      ),
    ).toBeUndefined());
});
