import { chosenWords, lastChances } from "@/studies/shared/sittings/chosen";

const sitting = (
  state: "open" | "closed",
  closed: string | null,
  chances = {},
) => ({
  state,
  closed,
  chances,
});

test("the sitting that was closed last is told, if anybody answered", () => {
  const sittings = [
    sitting("closed", "2026-11-29T10:00:00Z", { A: 0.4 }),
    sitting("closed", "2026-11-30T10:00:00Z", { A: 0.7 }),
    sitting("closed", "2026-12-01T10:00:00Z"),
    sitting("open", null),
  ];
  expect(lastChances(sittings)).toEqual({ A: 0.7 });
  expect(lastChances([])).toBeUndefined();
  expect(lastChances(undefined)).toBeUndefined();
});

test("who did not stand has no words", () => {
  expect(chosenWords({ A: 0.704 }, "A")).toBe("chosen blind 70 %");
  expect(chosenWords({ A: 0.7 }, "U")).toBe("");
  expect(chosenWords(undefined, "A")).toBe("");
});
