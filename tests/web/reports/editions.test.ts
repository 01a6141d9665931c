import { isTime, momentOf, stateOf } from "@/reports/editions";

const now = new Date("2026-12-01T12:00:00Z");
const edition = (withdrawn: string | null, from: string | null) => ({
  withdrawn,
  public_from: from,
});

describe("an edition's state", () => {
  it.each([
    [edition(null, null), "public"],
    [edition(null, "2026-12-01T12:00:00Z"), "public"],
    [edition(null, "2026-12-01T12:00:01Z"), "waiting"],
    [edition("2026-11-30T09:00:00Z", null), "withdrawn"],
    // What was withdrawn before it was public stays so.
    [edition("2026-11-30T09:00:00Z", "2026-12-09T00:00:00Z"), "withdrawn"],
  ])("%o is %s", (told, wanted) => expect(stateOf(told, now)).toBe(wanted));
});

describe("the moment from which it is public", () => {
  it.each([
    ["9:05", true],
    ["23:59", true],
    [" 14:00 ", true],
    ["24:00", false],
    ["14", false],
    ["14:60", false],
    ["", false],
  ])("%s is a time: %s", (text, wanted) => expect(isTime(text)).toBe(wanted));

  it("is of one's own clock", () => {
    const at = new Date(momentOf("2026-12-03", "9:05")!);
    expect([at.getDate(), at.getHours(), at.getMinutes()]).toEqual([3, 9, 5]);
    expect(momentOf(null, "9:05")).toBeNull();
    expect(new Date(momentOf("2026-12-03", "late")!).getHours()).toBe(0);
  });
});
