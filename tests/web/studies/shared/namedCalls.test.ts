import {
  calledBy,
  callsBrief,
  callsOf,
  callsTold,
  type NamedCall,
} from "@/studies/shared/namedCalls";

const call = (over: Partial<NamedCall>): NamedCall => ({
  patch: 1,
  contender: 10,
  against: "U",
  answer: "better",
  author: "kim",
  mine: false,
  ...over,
});
const press = (
  key: string,
  over: Partial<Record<"altKey" | "ctrlKey" | "metaKey", boolean>> = {},
) => ({
  key,
  altKey: true,
  ctrlKey: false,
  metaKey: false,
  ...over,
});

describe("calls with names seen", () => {
  it("are given by keys that do nothing else", () => {
    expect(calledBy(press("ArrowUp"))).toBe("better");
    expect(calledBy(press("ArrowDown"))).toBe("worse");
    expect(calledBy(press("Enter"))).toBe("no difference");
    expect(calledBy(press("ArrowLeft"))).toBeUndefined();
    expect(calledBy(press("Enter", { altKey: false }))).toBeUndefined();
    expect(calledBy(press("ArrowUp", { ctrlKey: true }))).toBeUndefined();
  });
  it("of a patch and contender have one's own first, and say whose they are", () => {
    const all = [
      call({}),
      call({ patch: 2 }),
      call({ contender: 11 }),
      call({ answer: "no difference", author: "me", mine: true }),
    ];
    const found = callsOf(all, 1, 10);
    expect(found.map((c) => c.author)).toEqual(["me", "kim"]);
    expect(callsTold(found)).toBe(
      "Called with names seen: no difference from U (me), better than U (kim)",
    );
    expect(callsBrief(found)).toBe("called the same, better");
    expect(callsOf(all, undefined, 10)).toEqual([]);
    expect(callsTold([])).toBe("");
  });
});
