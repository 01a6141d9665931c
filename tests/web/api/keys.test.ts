import { keys, ofStudy } from "@/api/keys";

describe("keys of what is read", () => {
  it("lie below their study, so that all of it can be called stale", () => {
    const whole = keys.study(5);
    for (const key of [
      keys.page(5),
      keys.part(5, "readings"),
      keys.part(5, "curves", 3, ""),
    ])
      expect(key.slice(0, 2)).toEqual(whole);
    expect(keys.page(51).slice(0, 2)).not.toEqual(whole);
  });

  it("tell what they are of", () =>
    expect(keys.part(5, "summary", "role", "matched")).toEqual([
      "study",
      5,
      "summary",
      "role",
      "matched",
    ]));

  it("of lists are apart from those of one", () => {
    expect(keys.studies[0]).not.toBe(keys.study(1)[0]);
    expect(keys.frames[0]).not.toBe("frame");
  });

  it("name a study in an address", () =>
    expect(ofStudy(7)).toEqual({ params: { path: { study_id: 7 } } }));
});
