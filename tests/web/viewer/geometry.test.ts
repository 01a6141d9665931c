import {
  atOwnPixels,
  inside,
  outputScale,
  toCanvas,
  type Bend,
  bentBy,
  IDENTITY,
  levelFor,
  magnifications,
  type Mapping,
  mappingAt,
  nextStep,
  origin,
  percent,
  STEPS,
  TILE,
  tilesInView,
  toFrame,
  turnAt,
  wholeView,
  zoomAt,
} from "@/viewer/geometry";

const CANVAS = { width: 900, height: 600 };
/** Numbers from 0 to 1 that are the same in each run (mulberry32). */
function random(seed: number): () => number {
  return () => {
    seed = (seed + 0x6d2b79f5) | 0;
    let t = Math.imul(seed ^ (seed >>> 15), 1 | seed);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}
const CASES = Array.from({ length: 40 }, (_, i) => i);

function view(r: () => number) {
  return { x: 4000 * r(), y: 3000 * r(), zoom: 2 ** (6 * r() - 3) };
}

function mapping(r: () => number): Mapping {
  return {
    sx: 0.3 + 4 * r(),
    sy: 0.3 + 4 * r(),
    dx: 60 * r() - 30,
    dy: 60 * r() - 30,
  };
}

describe("zooming", () => {
  it.each(CASES)(
    "keeps the frame point under the pointer where it is (%d)",
    (seed) => {
      const r = random(seed);
      const [from, x, y, zoom] = [
        view(r),
        900 * r(),
        600 * r(),
        2 ** (6 * r() - 3),
      ];
      const before = toFrame(from, CANVAS, x, y);
      const after = toFrame(zoomAt(from, CANVAS, x, y, zoom), CANVAS, x, y);
      expect(after.x).toBeCloseTo(before.x, 8);
      expect(after.y).toBeCloseTo(before.y, 8);
    },
  );
  it("goes up and down the steps, and stays at their ends", () => {
    for (const [i, step] of STEPS.entries()) {
      expect(nextStep(step, 1)).toBe(STEPS[i + 1] ?? step);
      expect(nextStep(step, -1)).toBe(STEPS[i - 1] ?? step);
    }
    expect(nextStep(0.7, 1)).toBe(1);
    expect(nextStep(0.7, -1)).toBe(0.5);
    expect(nextStep(20, 1)).toBe(20);
    expect(nextStep(20, -1)).toBe(8);
  });
  it("shows a whole frame in its middle", () => {
    const whole = wholeView({ width: 6000, height: 3000 }, CANVAS);
    expect(whole).toEqual({ x: 3000, y: 1500, zoom: 0.15 });
    const corner = toFrame(whole, CANVAS, 0, 75);
    expect(corner.x).toBeCloseTo(0);
    expect(corner.y).toBeCloseTo(0);
  });
});

describe("the same detail under the same point", () => {
  it.each(CASES)("whatever the output's size and shift (%d)", (seed) => {
    const r = random(seed);
    const [at, m] = [view(r), mapping(r)];
    const { left, top } = origin(at, m, CANVAS);
    // A place of the frame lies on the canvas where its like of the output does.
    const [px, py] = [at.x + 300 * (r() - 0.5), at.y + 200 * (r() - 0.5)];
    const x = (px - at.x) * at.zoom + CANVAS.width / 2;
    const y = (py - at.y) * at.zoom + CANVAS.height / 2;
    expect(left + ((m.sx * px + m.dx) * at.zoom) / m.sx).toBeCloseTo(x, 6);
    expect(top + ((m.sy * py + m.dy) * at.zoom) / m.sy).toBeCloseTo(y, 6);
  });
});

describe("tiles", () => {
  it.each(CASES)(
    "cover all of the canvas that the picture does, once, and meet (%d)",
    (seed) => {
      const r = random(seed);
      const picture = {
        width: Math.ceil(5000 * r()),
        height: Math.ceil(4000 * r()),
      };
      const m = mapping(r);
      const at = {
        x: (picture.width * r()) / m.sx,
        y: (picture.height * r()) / m.sy,
        zoom: 2 ** (5 * r() - 3),
      };
      const level = Math.floor(3 * r());
      const tiles = tilesInView(at, m, picture, CANVAS, level);
      const { left, top } = origin(at, m, CANVAS);
      const edge = {
        left: Math.max(0, Math.round(left)),
        top: Math.max(0, Math.round(top)),
        right: Math.min(
          CANVAS.width,
          Math.round(left + (picture.width * at.zoom) / m.sx),
        ),
        bottom: Math.min(
          CANVAS.height,
          Math.round(top + (picture.height * at.zoom) / m.sy),
        ),
      };
      let area = 0;
      for (const t of tiles) {
        const w = Math.min(t.right, CANVAS.width) - Math.max(t.left, 0);
        const h = Math.min(t.bottom, CANVAS.height) - Math.max(t.top, 0);
        area += Math.max(0, w) * Math.max(0, h);
        expect((t.column * TILE) << level).toBeLessThan(picture.width);
        expect((t.row * TILE) << level).toBeLessThan(picture.height);
      }
      const wanted =
        Math.max(0, edge.right - edge.left) *
        Math.max(0, edge.bottom - edge.top);
      expect(area).toBe(wanted);
      expect(new Set(tiles.map((t) => `${t.column} ${t.row}`)).size).toBe(
        tiles.length,
      );
    },
  );
  it("are taken from the coarsest level that still has a pixel for each of the screen's", () => {
    const cases: [number, number, number][] = [
      [8, 5, 0],
      [1, 5, 0],
      [0.99, 5, 0],
      [0.5, 5, 1],
      [0.26, 5, 1],
      [0.25, 5, 2],
      [0.01, 5, 4],
      [0.01, 1, 0],
    ];
    for (const [k, levels, level] of cases)
      expect(levelFor(k, levels)).toBe(level);
  });
});

describe("bends", () => {
  const none = Array.from({ length: 10 }, () => 0);
  it("are polynomials of the place, from their own middle and reach", () => {
    const bend: Bend = {
      x: 100,
      y: 50,
      reach: 10,
      across: [1, 2, 3, 4, 5, 6, 7, 8, 9, 10],
      down: none,
    };
    // u = 2, v = -1: 1 + 4 - 3 + 16 - 10 + 6 + 56 - 32 + 18 - 10
    expect(bentBy(bend, 120, 40)).toEqual({ x: 46, y: 0 });
  });
  it("move a mapping by what they are at its place, in output pixels", () => {
    const bend: Bend = {
      x: 0,
      y: 0,
      reach: 100,
      across: [0.5, ...none.slice(1)],
      down: [0, 0, 1, ...none.slice(3)],
    };
    const m = { sx: 2, sy: 4, dx: 1, dy: 1, bend };
    expect(mappingAt(m, 10, 50)).toEqual({ sx: 2, sy: 4, dx: 2, dy: 3 });
    expect(mappingAt(IDENTITY, 10, 50)).toBe(IDENTITY);
  });
  it("tell a turn as one, clockwise, and a stretch as none", () => {
    const angle = 0.01;
    const turned: Bend = {
      x: 0,
      y: 0,
      reach: 1,
      across: [0, 0, -angle, ...none.slice(3)],
      down: [0, angle, 0, ...none.slice(3)],
    };
    const stretched: Bend = {
      ...turned,
      across: [0, angle, 0, ...none.slice(3)],
      down: [0, 0, angle, ...none.slice(3)],
    };
    expect(turnAt({ ...IDENTITY, bend: turned }, 30, 40)).toBeCloseTo(angle, 9);
    expect(turnAt({ ...IDENTITY, bend: stretched }, 30, 40)).toBeCloseTo(0, 9);
    expect(turnAt(IDENTITY, 3, 4)).toBe(0);
  });
});

describe("magnification in words", () => {
  it("has three figures at most", () => {
    const cases: [number, string][] = [
      [1, "100 %"],
      [0.3333, "33.3 %"],
      [0.0126, "1.26 %"],
      [8, "800 %"],
      [1.2345, "123 %"],
    ];
    for (const [share, words] of cases) expect(percent(share)).toBe(words);
  });
  it("tells both, of output and of frame, once where they are the same", () => {
    expect(
      magnifications({ x: 0, y: 0, zoom: 2 }, { sx: 1, sy: 1, dx: 3, dy: 0 }),
    ).toBe("200 %, output = frame");
    const m = { sx: 2, sy: 2, dx: 0, dy: 0 };
    expect(magnifications({ x: 0, y: 0, zoom: 2 }, m)).toBe(
      "100 % of output = 200 % of frame",
    );
  });
});

describe("a view held inside of its picture", () => {
  const picture = { width: 1000, height: 800 };
  const canvas = { width: 400, height: 200 };
  it.each([
    [
      "stays where the canvas shows picture only",
      { x: 500, y: 400, zoom: 1 },
      [500, 400],
    ],
    [
      "moves off a corner by as little as it takes",
      { x: 0, y: 0, zoom: 1 },
      [200, 100],
    ],
    ["moves off the other corner", { x: 1000, y: 800, zoom: 2 }, [900, 750]],
    [
      "lies in the middle where the picture is smaller",
      { x: 10, y: 10, zoom: 0.1 },
      [500, 400],
    ],
    [
      "does so across only, where only that is",
      { x: 10, y: 10, zoom: 0.3 },
      [500, 333.33],
    ],
  ])("%s", (_, from, [x, y]) => {
    const held = inside(from, picture, canvas);
    expect(held.x).toBeCloseTo(x as number, 1);
    expect(held.y).toBeCloseTo(y as number, 1);
    expect(held.zoom).toBe(from.zoom);
  });

  it("is where it was before there is room", () => {
    const view = { x: 3, y: 4, zoom: 2 };
    expect(inside(view, picture, { width: 0, height: 0 })).toEqual(view);
  });
});

describe("an output's own pixels", () => {
  it.each([1, 2, 4, 0.5])(
    "are seen alike where it is %f times the frame",
    (scale) => {
      const own = atOwnPixels(
        { x: 7, y: 9, zoom: 2 },
        { sx: scale, sy: scale, dx: 3, dy: 1 },
      );
      expect(outputScale(own, { sx: scale, sy: scale, dx: 3, dy: 1 }).kx).toBe(
        2,
      );
      expect([own.x, own.y]).toEqual([7, 9]);
    },
  );
});

describe("a place on the canvas", () => {
  it.each(CASES)("is found again from the frame's (case %i)", (i) => {
    const r = random(i + 900);
    const seen = { x: 1000 * r(), y: 700 * r(), zoom: 8 * r() + 0.1 };
    const [x, y] = [CANVAS.width * r(), CANVAS.height * r()];
    const at = toFrame(seen, CANVAS, x, y);
    const back = toCanvas(seen, CANVAS, at.x, at.y);
    expect(back.x).toBeCloseTo(x, 6);
    expect(back.y).toBeCloseTo(y, 6);
  });
});
