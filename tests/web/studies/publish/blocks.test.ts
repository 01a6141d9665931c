import {
  addable,
  added,
  type Block,
  moved,
  orderIn,
  placesOf,
} from "@/studies/publish/blocks";

const of = (words: string): Block[] =>
  words.split("").map((kind) => ({ kind }));
const told = (blocks: readonly Block[]) => blocks.map((b) => b.kind).join("");

describe("the blocks of a report", () => {
  it.each([
    ["down", 0, 1, "bacd"],
    ["up", 3, -2, "adbc"],
    ["not beyond the end", 1, 9, "acdb"],
    ["not before the beginning", 2, -9, "cabd"],
    ["from nowhere", 7, 1, "abcd"],
    ["nowhere", 1, 0, "abcd"],
  ])("are moved %s", (_, from, by, wanted) => {
    const before = of("abcd");
    expect(told(moved(before, from, by))).toBe(wanted);
    expect(told(before)).toBe("abcd");
  });
  it("are added after the one that was worked on", () => {
    expect(told(added(of("ab"), "c", 0))).toBe("acb");
    expect(told(added([], "c", -1))).toBe("c");
    expect(added([], "text", -1)).toEqual([{ kind: "text", text: "" }]);
    expect(added([], "files", -1)).toEqual([{ kind: "files" }]);
  });
  it("are told in words where somebody else changed them", () => {
    const kinds = [
      { id: "answer", title: "Answer", kept: false, own: false },
      { id: "text", title: "Text", kept: false, own: true },
    ];
    const blocks = [
      { kind: "answer" },
      { kind: "text", text: "<p>One <strong>two</strong></p>" },
      { kind: "text", text: "" },
      { kind: "gone" },
    ];
    expect(orderIn(blocks, kinds).replace(/ +/g, " ")).toBe(
      "Answer; Text: One two; Text; gone",
    );
  });
  it("can be added once, the author's own as often as wanted", () => {
    const kinds = ["a", "b", "text"].map((id) => ({
      id,
      title: id,
      kept: false,
      own: id === "text",
    }));
    const blocks = [...of("a"), { kind: "text", text: "one" }];
    expect(addable(kinds, blocks).map((k) => k.id)).toEqual(["b", "text"]);
  });
});

test("a comment is about all of the report, or a part that has a name", () => {
  const kinds = [
    { id: "text", title: "Text", kept: false, own: true },
    { id: "files", title: "Files", kept: true, own: false },
  ];
  const long = `<p>${"threads ".repeat(20)}</p>`;
  const blocks = [
    { kind: "text", text: "<p>On <b>cloth</b></p>" },
    { kind: "text", text: long },
    { kind: "text", text: "" },
    { kind: "text", text: "" },
    { kind: "files" },
  ];
  const [whole, ...parts] = placesOf(blocks, kinds);
  expect(whole?.value).toBe("");
  const names = parts.map((p) => p.value);
  expect(names.slice(0, 4)).toEqual([
    "Summary",
    "Method",
    "Disclosure",
    "Text: On cloth",
  ]);
  expect(names[4]).toMatch(/^Text: threads .*…$/);
  expect(names.slice(5)).toEqual(["Text", "Files"]);
  expect(names.every((name) => name.length <= 200)).toBe(true);
});
