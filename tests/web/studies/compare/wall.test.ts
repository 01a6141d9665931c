import type { Frame, Measure, Patch, Reading } from "@/api/types";
import {
  arranged,
  lettersIn,
  movedTo,
  type Order,
  toggled,
} from "@/studies/compare/wall/columns";
import {
  meanRank,
  measureOf,
  sameSpot,
  spotsOf,
  spread,
} from "@/studies/compare/wall/spots";

const column = (letter: string, title = letter) => ({ letter, title });
const COLUMNS = [
  column("T"),
  column("U"),
  column("A", "Tarnlift 1.8"),
  column("B", "Keenfold 5.1"),
  column("C", "Tarnlift 2.0"),
];
const plain = { moved: [], held: [], hidden: [], order: "" as Order };
const shown = (of: Partial<typeof plain>, ranks: Record<string, number> = {}) =>
  arranged(COLUMNS, { ...plain, ...of } as never, (l) => ranks[l])
    .map((c) => c.letter)
    .join("");

describe("columns of the wall", () => {
  it.each([
    [{}, "TUABC"],
    [{ moved: ["C", "A"] }, "CATUB"],
    [{ held: ["B"] }, "BTUAC"],
    [{ hidden: ["T", "B"] }, "UAC"],
    [{ order: "tool" }, "TUACB"],
    [{ order: "rank" }, "TUCAB"],
    [{ order: "psnr" }, "TUCAB"],
    [{ order: "rank", held: ["U"], hidden: ["C"] }, "UTAB"],
  ])("%j stand as %s", (of, wanted) =>
    expect(shown(of as never, { A: 2, B: 3, C: 1 })).toBe(wanted),
  );
  it("are put where another stands, and only there", () => {
    expect(movedTo(["T", "U", "A", "B"], "B", "U")).toEqual([
      "T",
      "B",
      "U",
      "A",
    ]);
    expect(movedTo(["T", "U", "A"], "T", "A")).toEqual(["U", "A", "T"]);
    expect(movedTo(["T", "U"], "T", "T")).toEqual(["T", "U"]);
    expect(movedTo(["T", "U"], "T", "Q")).toEqual(["T", "U"]);
  });
  it("are told in an address by letters, once each", () => {
    expect(lettersIn("A,,B,A")).toEqual(["A", "B"]);
    expect(toggled(["A", "B"], "A")).toEqual(["B"]);
    expect(toggled(["A"], "B")).toEqual(["A", "B"]);
  });
});

const frame = (
  id: number,
  iso: number | null,
  width = 100,
  kinds: string[] = [],
) =>
  ({
    id,
    name: `F${id}`,
    picture: { state: "ready", width, height: 100, facts: { iso } },
    scene: kinds.length ? { kinds } : null,
  }) as unknown as Frame;
const patch = (id: number, of: number, role = "flat", x = 10) =>
  ({ id, frame: of, role, name: `P${id}`, x, y: 10, w: 20, h: 20 }) as Patch;
const reading = (
  value: number | null,
  half = 1,
  rank: number | null = null,
  measure = "m",
) =>
  ({
    value,
    low: value === null ? null : value - half,
    high: value === null ? null : value + half,
    rank,
    measure,
  }) as Reading;

describe("rows of the wall", () => {
  const frames = [
    frame(1, 6400, 100, ["night"]),
    frame(2, 100),
    frame(3, 800, 20),
  ];
  const patches = [patch(1, 1), patch(2, 2, "edge"), patch(3, 1, "edge")];
  it.each([
    [{}, [1, 2, 3]],
    [{ frame: "1" }, [1, 3]],
    [{ role: "edge" }, [2, 3]],
    [{ kind: "night", role: "edge" }, [3]],
    [{ frame: "9" }, []],
  ])("are the patches that %j lets pass", (filter, wanted) =>
    expect(
      spotsOf(patches, frames, {
        frame: "",
        role: "",
        kind: "",
        ...filter,
      }).map((s) => s.patch),
    ).toEqual(wanted),
  );
  it("are one spot on every frame that reaches so far, by ISO", () =>
    expect(
      sameSpot(patches[0]!, frames).map((s) => [s.frame, s.patch, s.sub, s.x]),
    ).toEqual([
      [2, undefined, "ISO 100", 10],
      [1, 1, "ISO 6,400", 10],
    ]));
  it("differ by widths of their intervals", () => {
    expect(spread([reading(1), reading(5), reading(3)])).toBe(4);
    expect(spread([reading(1, 2), reading(5, 2)])).toBe(2);
    expect(spread([reading(1), reading(null)])).toBe(0);
  });
  it("rank a contender by the mean of its ranks", () => {
    expect(meanRank([reading(1, 1, 1), reading(1, 1, 4), reading(1)])).toBe(
      2.5,
    );
    expect(meanRank([reading(1)])).toBeUndefined();
  });
  it("tell the chosen measure; else the type's own; else what stands in; else what there is", () => {
    const measures = [
      { id: "own", own_of: ["flat"], stands_for: null },
      { id: "instead", own_of: [], stands_for: "own" },
      { id: "m", own_of: [], stands_for: null },
    ] as unknown as Measure[];
    const told = (mine: Reading[], chosen = "") =>
      measureOf("flat", mine, measures, chosen)?.id;
    const of = (id: string, value: number | null = 1) =>
      reading(value, 1, null, id);
    expect(told([of("m")], "instead")).toBe("instead");
    expect(told([of("m"), of("own")])).toBe("own");
    expect(told([of("m"), of("own", null), of("instead")])).toBe("instead");
    expect(told([of("own", null), of("m")])).toBe("m");
    expect(told([])).toBe("own");
  });
});
