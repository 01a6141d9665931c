import type { Texts } from "@/studies/publish/blocks";
import { merged } from "@/studies/publish/merging";

const of = (
  summary: string,
  method: string,
  ...texts: (string | [string, string])[]
): Texts => ({
  summary,
  method,
  disclosure: "",
  blocks: texts.map((t) =>
    typeof t === "string"
      ? { kind: "text", text: t }
      : { kind: t[0], text: t[1] },
  ),
});
const BASE = of("s", "m", "a", "b");

describe("two people's changes", () => {
  it.each([
    ["nothing", BASE, BASE, BASE],
    ["mine alone", of("S", "m", "a", "b"), BASE, of("S", "m", "a", "b")],
    ["theirs alone", BASE, of("s", "M", "a"), of("s", "M", "a")],
    [
      "two fields",
      of("S", "m", "a", "b"),
      of("s", "M", "a", "b"),
      of("S", "M", "a", "b"),
    ],
    [
      "two blocks",
      of("s", "m", "A", "b"),
      of("s", "m", "a", "B"),
      of("s", "m", "A", "B"),
    ],
    [
      "a field and the order",
      of("S", "m", "a", "b"),
      of("s", "m", "b", "a"),
      of("S", "m", "b", "a"),
    ],
    [
      "the same change",
      of("S", "m", "A", "b"),
      of("S", "m", "A", "b"),
      of("S", "m", "A", "b"),
    ],
    [
      "the same field otherwise",
      of("S", "m", "a", "b"),
      of("T", "m", "a", "b"),
      null,
    ],
    [
      "the same block otherwise",
      of("s", "m", "A", "b"),
      of("s", "m", "X", "b"),
      null,
    ],
    [
      "one moved what the other wrote",
      of("s", "m", "b", "a"),
      of("s", "m", "A", "b"),
      null,
    ],
    [
      "one removed what the other wrote",
      of("s", "m", "b"),
      of("s", "m", "A", "b"),
      null,
    ],
    [
      "another kind in its place",
      of("s", "m", ["heading", "a"], "b"),
      of("s", "m", "a", "B"),
      null,
    ],
  ])(
    "are brought together where they do not meet: %s",
    (_, mine, theirs, wanted) => {
      expect(merged(BASE, mine, theirs)).toEqual(wanted);
    },
  );
});
