import {
  type Arranged,
  arrangedFrom,
  arrangedTold,
  isStacked,
} from "@/studies/compare/close-look/arrangements";

const KINDS = { T: "truth", U: "unprocessed" } as const;
const columnsOf = (letters: string[]) =>
  letters.map((letter) => ({
    letter,
    kind: letter === "T" || letter === "U" ? KINDS[letter] : "treatment",
  }));
const from = (told: Record<string, string>, letters = ["T", "U", "A"]) =>
  arrangedFrom((name) => told[name] ?? "", columnsOf(letters));
const plain: Arranged = from({});

describe("an arrangement in an address", () => {
  it("is beside, against the unprocessed frame", () =>
    expect(plain).toMatchObject({
      arrangement: "beside",
      against: "U",
      rate: 0,
    }));
  it("is against what there is where nothing is unprocessed", () => {
    expect(from({}, ["A", "B"]).against).toBe("A");
    expect(from({ against: "Q" }).against).toBe("U");
  });
  it("is against the body that the frames are of, whatever its letter", () =>
    expect(
      arrangedFrom(
        () => "",
        [
          { letter: "B", kind: "body" },
          { letter: "A", kind: "unprocessed" },
        ],
      ).against,
    ).toBe("A"));
  it.each<Partial<Arranged>>([
    {},
    { arrangement: "in place", rate: 2 },
    { arrangement: "reveal", against: "T" },
    { arrangement: "difference", against: "A", kind: "de00", gain: 16 },
  ])("comes back as it was: %j", (of) => {
    const all = { ...plain, ...of };
    expect(from(arrangedTold(all))).toEqual(all);
  });
  it("tells nothing of what does not show", () =>
    expect(arrangedTold({ ...plain, gain: 32, rate: 4, against: "T" })).toEqual(
      {},
    ));
  it("takes one room in place and in reveal", () =>
    expect(
      (["beside", "in place", "reveal", "difference"] as const).map(isStacked),
    ).toEqual([false, true, true, false]));
});
