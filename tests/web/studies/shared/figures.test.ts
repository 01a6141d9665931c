import {
  figureOf,
  figureWords,
  markedFrame,
  partInView,
} from "@/studies/shared/figures/figures";
import { AS_MADE } from "@/viewer/light";

const part = { x: 170, y: 50, w: 300, h: 300 };
const seen = {
  frame: 7,
  part,
  zoom: 2,
  trim: true,
  letters: ["A", "B", "A"],
  light: AS_MADE,
};

const asMade = { lift: 0, against: "", kind: "" as const, gain: 1 };

describe("a view as a figure", () => {
  it("is what the pane shows, wherever the frame ends", () => {
    const pane = { width: 600, height: 600 };
    expect(partInView({ x: 320, y: 200, zoom: 2 }, pane)).toEqual(part);
    expect(partInView({ x: 5, y: 5, zoom: 2 }, pane)).toMatchObject({
      x: -145,
      y: -145,
    });
  });

  it("takes each contender once, with its light or what differs", () => {
    const plain = {
      frame: 7,
      ...part,
      zoom: 2,
      trim: true,
      letters: ["A", "B"],
    };
    const told = { plane: "all", seen_as: "" };
    expect(figureOf(seen)).toEqual({ ...plain, ...asMade, ...told });
    expect(figureOf({ ...seen, light: { ...AS_MADE, lift: 3 } })).toMatchObject(
      { lift: 3 },
    );
    const differs = { against: "B", kind: "de00" as const, gain: 4 };
    expect(figureOf({ ...seen, differs })).toMatchObject({
      letters: ["A"],
      ...differs,
      lift: 0,
    });
  });

  it("takes a plane with its gain, and the light that the plane knows", () => {
    const lit = { ...AS_MADE, lift: 2, gain: 8 };
    for (const [plane, wanted] of [
      ["red", { lift: 2 }],
      ["colour", { lift: 2, gain: 8 }],
      ["noise", { lift: 0, gain: 8 }],
    ] as const)
      expect(figureOf({ ...seen, light: { ...lit, plane } })).toMatchObject({
        plane,
        ...wanted,
      });
  });

  it("keeps the use that it is seen in, whatever the light was", () => {
    const use = { id: "post", centre: { x: 0.25, y: 0.5 } };
    const light = { ...AS_MADE, lift: 3, shadows: 2 };
    expect(figureOf({ ...seen, use, light })).toMatchObject({
      seen_as: "post",
      centre: [0.25, 0.5],
      lift: 0,
    });
  });

  it("lays one over another up to the boundary, never at the very edge", () => {
    const letters = ["A"];
    for (const [at, over] of [
      [0.4567, 0.457],
      [0, 0.05],
      [1, 0.95],
    ] as const)
      expect(
        figureOf({ ...seen, letters, over: { against: "U", at } }),
      ).toMatchObject({ letters: ["A", "U"], over, against: "" });
  });

  it("marks the patches of a whole frame", () => {
    const frame = { id: 7, picture: { width: 640, height: 426 } };
    const { letters, w, h, marked } = markedFrame(frame, "U");
    expect({ letters, w, h, marked }).toEqual({
      letters: ["U"],
      w: 640,
      h: 426,
      marked: true,
    });
  });

  it.each([
    [{ over: { against: "U", at: 0.5 } }, "A alone over U"],
    [
      { light: { ...AS_MADE, match: "exposure and tone" as const } },
      "exposure and tone matched",
    ],
    [{ light: { ...AS_MADE, shadows: 2 } }, "shadows γ 2"],
    [
      {
        letters: ["B"],
        differs: { against: "B", kind: "de00" as const, gain: 1 },
      },
      "Nothing but B itself",
    ],
  ])("says what it can not be: %j", (other, words) => {
    expect(figureOf({ ...seen, ...other })).toContain(words);
  });

  it("is told in words", () => {
    const figure = {
      frame: 7,
      x: 0,
      y: 0,
      w: 40,
      h: 30,
      letters: ["A", "B"],
      ...asMade,
    };
    expect(figureWords(figure, "Loom")).toBe(
      "A, B: 40 × 30 px of Loom, as made",
    );
    expect(figureWords({ ...figure, lift: -2 }, "Loom")).toContain(
      "lowered by 2 EV",
    );
    expect(
      figureWords(
        { ...figure, against: "U", kind: "absolute", gain: 8 },
        "Loom",
      ),
    ).toContain("difference from U, channels, × 8");
  });
});
