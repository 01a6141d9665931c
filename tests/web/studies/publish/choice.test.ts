import { added, isChosen } from "@/studies/publish/blocks";
import {
  asking,
  choiceOf,
  choiceWords,
  placeItems,
  placeKeys,
} from "@/studies/publish/choice";

const FRAMES = [
  { id: 1, name: "Loom" },
  { id: 2, name: "Yard" },
];
const PATCHES = [
  { id: 7, name: "Cloth", frame: 1 },
  { id: 8, name: "Lamp", frame: 2 },
];
const PLACES = placeItems(FRAMES, PATCHES);
const MEASURES = ["a", "b", "c", "d"].map((id) => ({
  id,
  name: `Measure ${id}`,
}));

describe("readings that an author chooses", () => {
  it("are of patches, or of whole frames, in the order of the frames", () => {
    expect(PLACES).toEqual([
      { value: "1/7", title: "Cloth, Loom" },
      { value: "1/", title: "Whole frame, Loom" },
      { value: "2/8", title: "Lamp, Yard" },
      { value: "2/", title: "Whole frame, Yard" },
    ]);
  });
  it("come back from the form as they went into it", () => {
    const choice = choiceOf(["a"], ["2/8", "1/"], ["U", "B"]);
    expect(choice).toEqual({
      measures: ["a"],
      places: [
        { frame: 2, patch: 8 },
        { frame: 1, patch: null },
      ],
      letters: ["U", "B"],
    });
    expect(placeKeys(choice)).toEqual(["2/8", "1/"]);
  });
  it.each([
    [[], ["1/7"], ["A"], "Nothing is chosen yet; editions leave it out."],
    [["a"], ["1/7"], [], "Nothing is chosen yet; editions leave it out."],
    [["a"], ["1/7"], ["A", "U"], "Measure a; Cloth, Loom; A, U"],
    [
      ["a", "b", "c", "d"],
      ["9/9"],
      ["A"],
      "Measure a, Measure b and 2 more; a place that is gone; A",
    ],
    [["gone"], ["2/"], ["A"], "gone; Whole frame, Yard; A"],
  ])("are told in words: %j %j %j", (measures, places, letters, wanted) => {
    expect(
      choiceWords(choiceOf(measures, places, letters), MEASURES, PLACES),
    ).toBe(wanted);
  });
  it("are asked for in a text by name", () => {
    expect(asking("B", "Detail kept", "Cloth, Loom")).toBe(
      "{B Detail kept, Cloth, Loom}",
    );
  });
  it("begin with none in a new table or chart", () => {
    for (const kind of ["table", "chart"]) {
      expect(isChosen(kind)).toBe(true);
      const [block] = added([], kind, -1);
      expect(block?.table).toEqual({ measures: [], places: [], letters: [] });
    }
    expect(isChosen("figure")).toBe(false);
  });
});
