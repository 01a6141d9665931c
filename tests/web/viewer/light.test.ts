import { BLACK, decode, encode, MIDDLE, SPAN } from "@/viewer/depth";
import {
  AS_MADE,
  curveOf,
  isBeyond,
  type Light,
  lightLayer,
  lightWords,
  MARKS,
  MID,
  type Plane,
} from "@/viewer/light";

const step = (v: number) => Math.round(BLACK + SPAN * v);
const light = (of: Partial<Light>): Light => ({ ...AS_MADE, ...of });

/** What one pixel becomes. */
function shown(
  of: Partial<Light>,
  rgb: readonly [number, number, number],
): number[] {
  const layer = lightLayer(1, light(of), null);
  const out = new Uint8ClampedArray(4);
  layer!.paint(Uint16Array.from(rgb.map(step)), 1, out);
  return [...out];
}

describe("a light", () => {
  it("is nothing where the picture is shown as made", () => {
    expect(
      lightLayer(1, AS_MADE, { stops: 1, frame: [], output: [] }),
    ).toBeNull();
    expect(lightLayer(1, light({ match: "exposure" }), null)).toBeNull();
    expect(lightLayer(1, light({ gain: 8 }), null)).toBeNull();
  });
  it.each([-3, -1, 1, 3, 6])("lifts by %i EV in linear light", (lift) => {
    const curve = curveOf(light({ lift }), null);
    for (const v of [0.001, 0.01, 0.05, 0.2, 0.6])
      expect(curve[step(v)]!).toBeCloseTo(
        255 * encode(decode((step(v) - BLACK) / SPAN) * 2 ** lift),
        2,
      );
  });
  it("shows more steps of a lifted shadow than 8 bits have", () => {
    const curve = curveOf(light({ lift: 6 }), null);
    const levels = new Set<number>();
    for (let s = BLACK; s <= step(4 / 255); s++)
      levels.add(Math.round(curve[s]!));
    expect(levels.size).toBeGreaterThan(30);
  });
  it("opens shadows without moving black or white", () => {
    const curve = curveOf(light({ shadows: 2 }), null);
    expect([curve[BLACK], curve[BLACK + SPAN]]).toEqual([0, 255]);
    expect(curve[step(0.25)]!).toBeCloseTo(255 * 0.5, 1);
  });
  it("matches before it lifts", () => {
    const tone = { stops: 1, frame: [], output: [] };
    const curve = curveOf(light({ lift: 1, match: "exposure" }), tone);
    expect(curve[step(0.3)]!).toBeCloseTo(
      (255 * (step(0.3) - BLACK)) / SPAN,
      2,
    );
  });

  const colour = [0.5, 0.25, 0.75] as const;
  const y = 255 * (0.2126 * 0.5 + 0.7152 * 0.25 + 0.0722 * 0.75);
  it.each<[Plane, number[]]>([
    ["brightness", [y, y, y]],
    ["red", [127.5, 127.5, 127.5]],
    ["green", [63.75, 63.75, 63.75]],
    ["blue", [191.25, 191.25, 191.25]],
    ["colour", colour.map((v) => MID + 255 * v - y)],
  ])("shows the plane %s", (plane, wanted) =>
    shown({ plane, gain: 1 }, colour).forEach((v, c) =>
      c < 3
        ? expect(Math.abs(v - wanted[c]!)).toBeLessThanOrEqual(0.51)
        : expect(v).toBe(255),
    ),
  );
  it("shows colour alone of a grey as the middle, whatever the gain", () =>
    expect(shown({ plane: "colour", gain: 32 }, [0.3, 0.3, 0.3])).toEqual([
      MID,
      MID,
      MID,
      255,
    ]));

  it.each(["octave", "noise"] as const)(
    "asks the server for %s, about a middle",
    (plane) => {
      const layer = lightLayer(9, light({ plane, gain: 4 }), null)!;
      expect(layer.address(0, 1, 2)).toContain(`plane=${plane}`);
      const out = new Uint8ClampedArray(4);
      layer.paint(
        Uint16Array.from([MIDDLE, MIDDLE + SPAN / 255, MIDDLE - SPAN / 255]),
        1,
        out,
      );
      expect([...out]).toEqual([MID, MID + 4, MID - 4, 255]);
    },
  );

  it("marks what is cut off, and only that", () => {
    expect(shown({ clipped: true }, [1, 0.5, 0.2]).slice(0, 3)).toEqual([
      ...MARKS.top,
    ]);
    expect(shown({ clipped: true }, [0.5, 0, 0.2]).slice(0, 3)).toEqual([
      ...MARKS.bottom,
    ]);
    expect(shown({ clipped: true }, [254 / 255, 1 / 255, 0.5])).toEqual([
      254, 1, 128, 255,
    ]);
  });
  it("marks colours beyond sRGB, but not what is rounded", () => {
    expect(shown({ beyond: true }, [1.1, 0.5, 0.2]).slice(0, 3)).toEqual([
      ...MARKS.beyond,
    ]);
    expect(shown({ beyond: true }, [0.5, -0.02, 0.2]).slice(0, 3)).toEqual([
      ...MARKS.beyond,
    ]);
    expect(shown({ beyond: true }, [1.001, 0, 0.5])).toEqual([
      255, 0, 128, 255,
    ]);
    expect(isBeyond(BLACK, BLACK + SPAN, BLACK)).toBe(false);
  });

  it.each<[Partial<Light>, boolean, string]>([
    [{}, false, ""],
    [{ lift: 3 }, false, "+3 EV"],
    [{ lift: -1, plane: "brightness" }, false, "−1 EV, brightness alone"],
    [{ plane: "octave", gain: 8 }, false, "finest octave, × 8"],
    [{ match: "exposure", shadows: 2 }, true, "exposure matched, shadows γ 2"],
  ])("says in words what it is: %j", (of, matched, words) =>
    expect(lightWords(light(of), matched)).toBe(words),
  );
});
