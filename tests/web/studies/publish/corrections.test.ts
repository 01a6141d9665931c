import type { BlockKind } from "@/studies/publish/blocks";
import { correctionOf, placesOf } from "@/studies/publish/corrections";

const kind = (id: string, own = false): BlockKind => ({
  id,
  title: id.toUpperCase(),
  kept: false,
  own,
});

describe("where an edition was wrong", () => {
  it("is a part of the page that is not the author's own, or a figure with its frame", () => {
    const kinds = [
      kind("answer"),
      kind("text", true),
      kind("corrections"),
      kind("method"),
    ];
    const patches = [{ id: 7, name: "Sky", frame: 2 }];
    expect(placesOf(kinds, patches, [{ id: 2, name: "Yard" }])).toEqual([
      { key: "block answer", title: "ANSWER" },
      { key: "block method", title: "METHOD" },
      { key: "patch 7", title: "Figure: Sky, Yard" },
    ]);
  });

  it.each([
    [
      "block method",
      "psnr",
      "A",
      { block: "method", patch: null, measure: "", letter: "" },
    ],
    ["patch 7", null, null, { block: "", patch: 7, measure: "", letter: "" }],
    [
      "patch 7",
      "psnr",
      "A",
      { block: "", patch: 7, measure: "psnr", letter: "A" },
    ],
  ])("%s with %s of %s", (place, measure, letter, wanted) => {
    expect(correctionOf(1, place, measure, letter, " It was B. ")).toEqual({
      ...wanted,
      edition: 1,
      text: "It was B.",
    });
  });
});
