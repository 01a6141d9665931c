import { BLACK, SPAN } from "@/viewer/depth";
import { IDENTITY } from "@/viewer/geometry";
import {
  held,
  lengthOf,
  lineFrom,
  lineTold,
  LONGEST,
  placesOf,
  profileOf,
} from "@/viewer/profile";

const picture = { width: 6, height: 4 };
/** Red rises by a tenth a pixel to the right, green by two tenths downwards. */
const tile = new Uint16Array(3 * 24).map((_, i) => {
  const [plane, at] = [Math.floor(i / 24), i % 24];
  const value = [0.1 * (at % 6), 0.2 * Math.floor(at / 6), 0.5][plane] ?? 0;
  return BLACK + Math.round(SPAN * value);
});
const along = (x0: number, y0: number, x1: number, y1: number) => ({
  x0,
  y0,
  x1,
  y1,
});

describe("a measuring line", () => {
  it("is told in an address and read from it", () => {
    const line = along(1.25, 2, 30, 40);
    expect(lineTold(line)).toBe("1.3,2,30,40");
    expect(lineFrom("1.3,2,30,40")).toEqual(along(1.3, 2, 30, 40));
  });
  it.each(["", "1,2,3", "1,2,3,x", "1,2,3,4,5", "5,5,5,5", "1,2,,NaN"])(
    "is none where an address tells “%s”",
    (told) => expect(lineFrom(told)).toBeUndefined(),
  );
  it("is no longer than can be measured, in the same direction", () => {
    const line = held(along(10, 10, 10 + 3 * LONGEST, 10 + 4 * LONGEST));
    expect(lengthOf(line)).toBeCloseTo(LONGEST, 6);
    expect((line.y1 - 10) / (line.x1 - 10)).toBeCloseTo(4 / 3, 9);
    expect(held(along(1, 1, 4, 5))).toEqual(along(1, 1, 4, 5));
  });
  it("has a place for each pixel of the finest output", () => {
    expect(placesOf(along(0, 0, 10, 0), 1)).toHaveLength(11);
    expect(placesOf(along(0, 0, 10, 0), 0.5)).toHaveLength(11);
    const fine = placesOf(along(0, 0, 6, 8), 4);
    expect(fine).toHaveLength(41);
    expect(fine.at(-1)).toBe(10);
  });
  it("goes straight between pixels' middles", () => {
    const line = along(0.5, 0.5, 4.5, 2.5);
    const places = [0, lengthOf(line) / 8, lengthOf(line)];
    const found = profileOf(picture, IDENTITY, line, places, () => tile);
    const want = [
      [0, 0, 0.5],
      [0.05, 0.05, 0.5],
      [0.4, 0.4, 0.5],
    ];
    found?.forEach((value, i) =>
      value?.forEach((v, c) => expect(v).toBeCloseTo(want[i]?.[c] ?? 9, 3)),
    );
  });
  it("follows how an output lies, and leaves out what is not on it", () => {
    const half = { sx: 0.5, sy: 0.5, dx: 1, dy: 1 };
    const line = along(-4, 3, 12, 3);
    const found = profileOf(picture, half, line, [0, 7, 16], () => tile);
    expect(found?.[0]).toBeUndefined();
    expect(found?.[1]?.[0]).toBeCloseTo(0.1 * 2, 3);
    expect(found?.[2]).toBeUndefined();
  });
  it("asks for all tiles at once, and tells nothing before they are there", () => {
    const asked = new Set<string>();
    const wide = { width: 1600, height: 4 };
    const found = profileOf(
      wide,
      IDENTITY,
      along(10, 2, 1590, 2),
      [0, 600, 1580],
      (column, row) => {
        asked.add(`${column}_${row}`);
        return undefined;
      },
    );
    expect(found).toBeUndefined();
    expect([...asked].sort()).toEqual(["0_0", "1_0", "3_0"]);
  });
});
