import { isoAxis, isoNamed, stopsOf } from "@/charts/iso";

describe("an axis of ISO values", () => {
  it.each([
    [100, 0, "100"],
    [1600, 4, "1,600"],
    [50, -1, "50"],
    [51200, 9, "51,200"],
  ])("places ISO %d at %d stops, named %s", (iso, stops, name) => {
    expect(stopsOf(iso)).toBe(stops);
    expect(isoNamed(stops)).toBe(name);
  });
  it("spans whole stops about all values, with every other one marked where there are many", () => {
    const axis = isoAxis([125, 3200, 640]);
    expect([axis.min, axis.max, axis.interval]).toEqual([0, 5, 1]);
    expect(isoAxis([100, 51200]).interval).toBe(2);
    expect(isoAxis([400, 400])).toMatchObject({ min: 2, max: 3 });
    expect(isoAxis([])).toMatchObject({ min: 0, max: 1 });
  });
});
