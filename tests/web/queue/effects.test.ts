import { staleAfter } from "@/queue/effects";

const heads = (kind: string, study: number | null): string[] =>
  staleAfter({ kind, study }).map((key) => key.join("/"));

describe("what a job that ended makes stale", () => {
  it("is, for a measurement, the study's page and what is read from readings, each once", () => {
    const told = heads("measure", 7);
    expect(new Set(told).size).toBe(told.length);
    for (const part of ["page", "readings", "audit", "answers", "curves"])
      expect(told).toContain(`study/7/${part}`);
    expect(told).not.toContain("frames");
    expect(told).not.toContain("study/7");
  });

  it("leaves other studies alone", () => {
    for (const kind of ["measure", "run", "publish", "match folder"])
      for (const key of heads(kind, 7))
        if (key.startsWith("study/")) expect(key).toMatch(/^study\/7(\/|$)/);
  });

  it("is nothing for files that only their asker waits for", () => {
    expect(heads("export", null)).toEqual([]);
    expect(heads("layers", 3)).toEqual([]);
    expect(heads("full depth", null)).toEqual([]);
  });

  it.each([
    ["suggest", null, ["suggestions"]],
    ["publish", 4, ["study/4", "studies", "reports"]],
    ["display", null, ["frames", "frame", "scenes", "targets"]],
  ] as const)("is told for %s", (kind, study, keys) =>
    expect(heads(kind, study)).toEqual([...keys]),
  );

  it("reaches every study and every frame where a new file may stand anywhere", () => {
    const told = heads("decode", null);
    for (const key of ["study", "frames", "frame", "folder", "studies"])
      expect(told).toContain(key);
  });

  it("takes kinds that it does not know for such that change anything", () =>
    expect(heads("something new", 2)).toEqual(heads("decode", 2)));
});
