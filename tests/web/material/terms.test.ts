import { complete, shared, termsWords } from "@/material/terms/terms";

const cc0 = {
  id: "CC0-1.0",
  title: "CC0 1.0: no rights reserved",
  address: "",
  passed_on: true,
  changed: true,
};
const all = { licence: "CC0-1.0", source: "the mill", credit: "its museum" };

describe("terms", () => {
  it.each([
    [all, true, "CC0 1.0; credit: its museum"],
    [{ ...all, licence: "" }, false, "no licence; credit: its museum"],
    [
      { ...all, source: " ", credit: "" },
      false,
      "no source, no credit; CC0 1.0",
    ],
    [{ licence: "", source: "", credit: "" }, false, "licence not told"],
  ])("are told in one line: %j", (terms, whole, words) => {
    expect(complete(terms)).toBe(whole);
    expect(termsWords(terms, [cc0]).replace(/;\s+$/, "")).toBe(words);
  });

  it("start from what several frames share, and from nothing where they differ", () => {
    expect(shared([all, { ...all, credit: "a friend" }])).toEqual({
      ...all,
      credit: "",
    });
    expect(shared([])).toEqual({ licence: "", source: "", credit: "" });
  });
});
