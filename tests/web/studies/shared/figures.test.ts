import {
  figureOf,
  figureWords,
  partOnPage,
} from "@/studies/shared/figures/figures";
import { AS_MADE } from "@/viewer/light";

const picture = { width: 640, height: 427 };
const seen = {
  frame: { id: 7, picture },
  view: { x: 320, y: 200, zoom: 2 },
  pane: { width: 600, height: 600 },
  letters: ["A", "B", "A"],
  light: AS_MADE,
  use: "",
};

const asMade = { lift: 0, against: "", kind: "" as const, gain: 1 };

describe("a view as a figure", () => {
  it("is what stands whole on a page at the view's magnification", () => {
    // Two crops in 1,020 px leave 494 to each, 330 px is the most in height; at 200 %.
    expect(partOnPage(seen.view, seen.pane, picture, 2)).toEqual({
      x: 197,
      y: 118,
      w: 247,
      h: 165,
    });
    // More than six stand in two rows.
    expect(partOnPage(seen.view, seen.pane, picture, 8).w).toBe(118);
  });

  it.each([
    [
      { x: 5, y: 420, zoom: 8 },
      { x: 0, y: 386, w: 61, h: 41 },
    ],
    [
      { x: 320, y: 200, zoom: 0.25 },
      { x: 0, y: 0, w: 640, h: 427 },
    ],
    [
      { x: 100, y: 100, zoom: 800 },
      { x: 96, y: 96, w: 8, h: 8 },
    ],
  ])("keeps within the frame and is never too small: %j", (view, part) => {
    expect(partOnPage(view, { width: 900, height: 900 }, picture, 2)).toEqual(
      part,
    );
  });

  it("takes each contender once, with its light or what differs", () => {
    const plain = {
      frame: 7,
      x: 197,
      y: 118,
      w: 247,
      h: 165,
      zoom: 2,
      letters: ["A", "B"],
    };
    expect(figureOf(seen)).toEqual({ ...plain, ...asMade });
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

  it.each([
    [{ use: "web" }, "as made"],
    [{ light: { ...AS_MADE, plane: "red" as const } }, "red"],
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
