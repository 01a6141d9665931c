import {
  gridOf,
  MOST_PANES,
  openingLetters,
  paneFor,
  resized,
  roomOf,
} from "@/studies/compare/close-look/panes";

const column = (letter: string, kind = "treatment") => ({ letter, kind });
const COLUMNS = [
  column("T", "truth"),
  column("U", "unprocessed"),
  column("A"),
  column("B"),
  column("C"),
];

describe("panes", () => {
  it.each([
    [1, 1, 1],
    [2, 2, 1],
    [3, 3, 1],
    [4, 2, 2],
    [5, 3, 2],
    [6, 3, 2],
  ])("%i of them lie %i by %i", (count, columns, rows) =>
    expect(gridOf(count)).toEqual({ columns, rows }),
  );

  it("share the room evenly, each less its head", () => {
    const stage = { width: 1200, height: 700 };
    expect(roomOf(stage, 4, 60)).toEqual({ width: 600, height: 290 });
    expect(roomOf(stage, 3, 60)).toEqual({ width: 400, height: 640 });
    expect(roomOf({ width: 100, height: 40 }, 1, 60).height).toBe(0);
  });
});

describe("what a close look opens with", () => {
  it.each([
    [
      "what was clicked, the frame as it was, the truth",
      ["B"],
      ["B", "U", "T"],
    ],
    [
      "the frame itself, its truth, the first contender",
      ["U"],
      ["U", "T", "A"],
    ],
    [
      "the truth beside the frame and the first contender",
      ["T"],
      ["T", "U", "A"],
    ],
    ["the first contender where nothing was asked", [], ["A", "U", "T"]],
    [
      "the first contender where nobody has that letter",
      ["Z"],
      ["A", "U", "T"],
    ],
    [
      "all that the address names, in its order",
      ["C", "A", "U", "B"],
      ["C", "A", "U", "B"],
    ],
    ["the same one twice, if that is asked", ["A", "A"], ["A", "A"]],
    ["those of the address that there are", ["A", "Z", "B"], ["A", "B"]],
  ])("is %s", (_, asked, wanted) =>
    expect(openingLetters(COLUMNS, asked)).toEqual(wanted),
  );

  it("is what there is where there is no truth, or no contender", () => {
    expect(
      openingLetters(
        [column("U", "unprocessed"), column("A"), column("B")],
        [],
      ),
    ).toEqual(["A", "U", "B"]);
    expect(openingLetters([column("U", "unprocessed")], ["U"])).toEqual(["U"]);
    expect(openingLetters([], ["A"])).toEqual([]);
  });

  it("is no more than there is room for", () => {
    const many = [..."ABCDEFGH"].map((l) => column(l));
    expect(openingLetters(many, [..."ABCDEFGH"])).toHaveLength(MOST_PANES);
  });
});

describe("more and fewer panes", () => {
  it.each([
    [3, ["A", "U", "T"]],
    [5, ["A", "U", "T", "B", "C"]],
    [6, ["A", "U", "T", "B", "C", "A"]],
    [99, ["A", "U", "T", "B", "C", "A"]],
    [1, ["A"]],
    [0, ["A"]],
  ])("%i: those shown stay, others come in", (count, wanted) =>
    expect(resized(["A", "U", "T"], count, COLUMNS)).toEqual(wanted),
  );
});

describe("a letter", () => {
  it.each([
    [0, undefined, 3, 0],
    [2, 1, 3, 2],
    [1, 1, 3, 2],
    [2, 2, 3, 0],
    [0, 0, 1, 0],
  ])(
    "in pane %i with %s pinned of %i goes to %i",
    (active, pinned, count, wanted) =>
      expect(paneFor(active, pinned, count)).toBe(wanted),
  );
});
