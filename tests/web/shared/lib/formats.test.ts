import { bytes, day, isoDay, moment, taken } from "@/shared/lib/formats";

describe("sizes", () => {
  const cases: [number, string][] = [
    [0, "0 B"],
    [1, "1 B"],
    [999, "999 B"],
    [1000, "1.00 kB"],
    [9_994, "9.99 kB"],
    [9_996, "10.0 kB"],
    [99_940, "99.9 kB"],
    [99_960, "100 kB"],
    [999_499, "999 kB"],
    [999_500, "1.00 MB"],
    [22_300_000, "22.3 MB"],
    [1_050_000_000, "1.05 GB"],
    [4_294_967_296, "4.29 GB"],
    [3e15, "3000 TB"],
  ];
  it.each(cases)("%d is told as %s", (count, words) =>
    expect(bytes(count)).toBe(words),
  );
});

describe("dates", () => {
  it("names each month by three letters, whatever the engine's own short name is", () => {
    const months = Array.from({ length: 12 }, (_, m) =>
      day(new Date(2026, m, 5).toISOString()),
    );
    expect(months[8]).toBe("5 Sep 2026");
    for (const told of months) expect(told).toMatch(/^5 [A-Z][a-z]{2} 2026$/);
    expect(new Set(months).size).toBe(12);
  });
  it.each([
    ["2026:03:14 11:20:05", "14 Mar 2026, 11:20"],
    ["2026:01:02 00:00:59.12", "2 Jan 2026, 00:00"],
    ["    :  :     :  :  ", "    :  :     :  :  "],
    ["in spring", "in spring"],
    ["", ""],
  ])("tells what a camera writes, %j, in its own clock", (exif, words) =>
    expect(taken(exif)).toBe(words),
  );
  it("tells a moment to the minute, in hours of the day", () => {
    expect(moment(new Date(2026, 10, 27, 9, 5, 59).toISOString())).toBe(
      "27 Nov 2026, 09:05",
    );
    expect(moment(new Date(2026, 10, 27, 0, 0).toISOString())).toBe(
      "27 Nov 2026, 00:00",
    );
    expect(moment(new Date(2026, 10, 27, 23, 59).toISOString())).toBe(
      "27 Nov 2026, 23:59",
    );
  });
});

describe("a day that is typed", () => {
  it.each([
    ["2026-11-27", "2026-11-27"],
    ["27 Nov 2026", "2026-11-27"],
    ["3 March 2026", "2026-03-03"],
    ["2026-02-31", null],
    ["31 Feb 2026", null],
    ["11/27/2026", null],
    ["27.11.2026", null],
    ["soon", null],
  ])("%s is %s", (text, iso) => expect(isoDay(text)).toBe(iso));

  it("is that of a date in its own place, not of UTC", () =>
    expect(isoDay(new Date(2026, 0, 1, 0, 30))).toBe("2026-01-01"));
});
