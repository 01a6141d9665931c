import { begun, sure } from "@/studies/publish/retest";

const proposal = (contender: number, asked: string[] = [], there = "") => ({
  contender,
  letter: "A",
  title: "Sedgewash 3.1",
  manner: "",
  asked,
  there,
});

describe("testing again", () => {
  it("chooses what can be taken over as it is", () => {
    const proposals = [
      proposal(1),
      proposal(2, ["It has no mode “raw”."]),
      proposal(3, [], "C"),
    ];
    const retest = {
      release: 9,
      title: "",
      released: null,
      runs: true,
      proposals,
    };
    expect(sure(retest)).toEqual([1]);
    expect(sure(undefined)).toEqual([]);
  });

  it.each([
    [["E"], 3, [], "E added; 3 outputs being made."],
    [["E", "F"], 1, [], "E, F added; 1 output being made."],
    [
      ["E"],
      0,
      ["E: it can not be run here."],
      "E added. E: it can not be run here.",
    ],
  ])("says what became of it: %s", (letters, queued, by_hand, wanted) => {
    expect(begun({ letters, asked: { queued, by_hand, impossible: [] } })).toBe(
      wanted,
    );
  });
});
