import type { ViewingUse } from "@/api/types";
import { IDENTITY } from "@/viewer/geometry";
import {
  type AsSeen,
  lifeSize,
  seenMapping,
  seenWords,
} from "@/studies/compare/close-look/seen";

const use = {
  ppi: 300,
  distance_cm: 40,
  pixels_per_degree: 82.4,
} as ViewingUse;
const seen: AsSeen = {
  key: "k",
  width: 300,
  height: 200,
  levels: 1,
  part: [100, 50, 600, 400],
  size_bytes: null,
};

describe("an output as it is seen", () => {
  it("lies where its part of the output lies", () => {
    // The output is twice the frame and shifted by 4 px; a quarter of its pixels is left.
    const m = seenMapping({ sx: 2, sy: 2, dx: 4, dy: -2 }, seen);
    expect(m).toMatchObject({ sx: 1, sy: 1, dx: -48, dy: -26, bend: null });
    // The part's corner is the corner of what is seen.
    expect(m.sx * 48 + m.dx).toBe(0);
    expect(m.sy * 26 + m.dy).toBe(0);
  });
  it("is bent as the output is", () => {
    const bend = { x: 0, y: 0, reach: 1, across: [0.5], down: [0] };
    expect(seenMapping({ sx: 1, sy: 1, dx: 0, dy: 0, bend }, seen).bend).toBe(
      bend,
    );
  });
  it("is told by its pixels, what it takes, and how fine it is", () => {
    expect(seenWords(use, seen)).toBe(
      "300 × 200 px, 82 px a degree from 40 cm",
    );
    expect(seenWords(use, { ...seen, size_bytes: 51_200 })).toContain(
      "51.2 kB",
    );
  });
  it("has life size by the pixels of screen and use", () => {
    const lies = seenMapping({ sx: 2, sy: 2, dx: 0, dy: 0 }, seen);
    // One pixel of the print is a frame's; a screen of 150 ppi shows two with one.
    expect(lifeSize(use, lies, 150)).toBe(0.5);
    // Where each pane shows its own pixels, the frame's do not matter.
    expect(lifeSize(use, IDENTITY, 600)).toBe(2);
  });
});
