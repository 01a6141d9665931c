import {
  FITTING,
  type Format,
  FORMATS,
  planOf,
  type Row,
  unitOf,
} from "@/studies/compare/wall/sheetPlan";

const [DESK, LARGE, UPRIGHT] = FORMATS as readonly [Format, Format, Format];
const rows = (count: number, crops: number, w = 160, h = 120): Row[] =>
  Array.from({ length: count }, () => ({ w, h, crops }));

describe("a contact sheet", () => {
  it.each(
    FORMATS.flatMap((format) =>
      [
        rows(1, 2),
        rows(1, 6),
        rows(4, 5, 96, 64),
        [...rows(1, 3, 300, 40), ...rows(1, 6, 50, 90)],
      ].map((of) => [format.name, format, of] as const),
    ),
  )("of %s keeps every crop on it, and none over another", (_, format, of) => {
    for (const [zoom, readings] of [
      [FITTING, true],
      [2, false],
      [8, true],
    ] as const) {
      const plan = planOf(format, of, zoom, readings);
      expect(plan).toBeDefined();
      const placed = plan?.placed ?? [];
      expect(placed).toHaveLength(of.reduce((sum, r) => sum + r.crops, 0));
      for (const p of placed) {
        expect(p.x).toBeGreaterThanOrEqual(unitOf(format));
        expect(p.x + p.width).toBeLessThanOrEqual(format.width);
        // Its caption, and the line at the foot, stand below it.
        expect(p.y + p.height + 3 * unitOf(format)).toBeLessThan(format.height);
      }
      for (const [i, a] of placed.entries())
        for (const b of placed.slice(i + 1)) {
          const apart =
            a.x + a.width <= b.x ||
            b.x + b.width <= a.x ||
            a.y + a.height < b.y ||
            b.y + b.height < a.y;
          expect(apart).toBe(true);
        }
    }
  });
  it("magnifies by whole pixels, as large as fits, a fifth cut at most", () => {
    for (let w = 60; w < 700; w += 37) {
      const plan = planOf(DESK, rows(1, 4, w, 0.75 * w), FITTING, true);
      const zoom = plan?.zoom ?? 0;
      const first = plan?.placed[0] ?? { width: 0, height: 0 };
      expect(Number.isInteger(zoom) && zoom >= 1).toBe(true);
      const shown = [
        first.width / (zoom * w),
        first.height / (zoom * 0.75 * w),
      ];
      if (zoom > 1) expect(Math.min(...shown)).toBeGreaterThan(0.78);
      expect(plan?.cut).toBe(Math.min(...shown) < 0.99);
    }
  });
  it("says so where a crop shows less than its patch", () => {
    expect(planOf(DESK, rows(1, 6, 900, 900), FITTING, true)?.cut).toBe(true);
    expect(planOf(DESK, rows(1, 2, 400, 300), 8, true)?.cut).toBe(true);
    expect(planOf(LARGE, rows(1, 2, 400, 300), 1, true)?.cut).toBe(false);
  });
  it("is none where crops would tell nothing", () => {
    expect(planOf(UPRIGHT, rows(40, 20), FITTING, true)).toBeUndefined();
    expect(planOf(DESK, [], FITTING, true)).toBeUndefined();
  });
  it("names its rows where there are several", () => {
    expect(planOf(LARGE, rows(1, 4), FITTING, true)?.titles).toEqual([]);
    const titles = planOf(LARGE, rows(3, 4), FITTING, true)?.titles ?? [];
    expect(titles.map((t) => t.row)).toEqual([0, 1, 2]);
  });
});
