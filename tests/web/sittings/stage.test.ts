import { answerOf, choicesOf } from "@/sittings/choices";
import { aboutMinutes, columnOf, laid } from "@/sittings/stage";

const crop = { width: 600, height: 480 };

test.each([
  ["a desk", 1256, 560, 1, 600, false, true],
  ["a dense desk", 1256, 560, 2, 600, false, true],
  ["a phone", 366, 500, 3, 366, true, false],
  ["a dense phone with small crops", 366, 500, 3, 366, true, false],
])(
  "on %s two crops stand as large as there is room",
  (_, width, height, ratio, css, turn, whole) => {
    const shown = laid(crop, 2, { width, height }, ratio);
    expect(shown.inTurn).toBe(turn);
    expect(shown.width).toBeLessThanOrEqual(css);
    expect(shown.whole || !whole).toBe(true);
    // A device pixel is shared by no two pixels of the crop.
    if (shown.whole) expect((shown.width * ratio) % crop.width).toBeCloseTo(0);
  },
);

test("on a dense phone one at a time is larger than two beside each other", () => {
  const shown = laid(
    { width: 480, height: 420 },
    2,
    { width: 366, height: 500 },
    3,
  );
  expect([shown.inTurn, shown.whole, shown.width]).toEqual([true, true, 320]);
});

test("a small crop is not blown up beyond the screen's own density", () => {
  expect(
    laid({ width: 90, height: 60 }, 2, { width: 1200, height: 600 }, 1).width,
  ).toBe(90);
  expect(
    laid({ width: 90, height: 60 }, 2, { width: 366, height: 500 }, 3).width,
  ).toBe(90);
});

test("many are laid three in a row and shrunk before one is hidden", () => {
  const six = laid(crop, 6, { width: 1200, height: 600 }, 1);
  expect([six.columns, six.inTurn, six.whole]).toEqual([3, false, false]);
  expect(6 * six.width).toBeLessThanOrEqual(2 * 1200);
});

test("what is held is seen in the first one's place, to the pixel, and nothing else", () => {
  const desk = laid(crop, 2, { width: 1256, height: 560 }, 1);
  const phone = laid(crop, 2, { width: 366, height: 500 }, 1);
  expect(
    [0, 1, "beside" as const].map((w) => columnOf(w, undefined, 0, desk)),
  ).toEqual([1, 2, undefined]);
  expect([0, 1].map((w) => columnOf(w, 1, 0, desk))).toEqual([undefined, 1]);
  expect(columnOf("beside", "beside", 0, desk)).toBe(1);
  // What a single picture is compared with stands beside it, where there is room for both.
  expect(
    [desk, phone].map((on) => columnOf("beside", undefined, 0, on, 2)),
  ).toEqual([2, undefined]);
  expect([0, 1].map((w) => columnOf(w, undefined, 1, phone))).toEqual([
    undefined,
    1,
  ]);
});

test("answers have their keys", () => {
  expect(answerOf("pairs", "ArrowLeft")).toEqual({ said: "left" });
  expect(answerOf("pairs", "x")).toBeUndefined();
  expect(answerOf("single", "v")).toEqual({ grade: 1 });
  expect(choicesOf("order")).toEqual([]);
});

test("time is told in words", () => {
  expect([20, 61, 400].map(aboutMinutes)).toEqual([
    "under a minute",
    "about 1 min",
    "about 7 min",
  ]);
});
