import { lookKeys, nextOf } from "@/studies/compare/close-look/useLookKeys";
import type { Look } from "@/studies/compare/close-look/useLook";
import { AS_MADE } from "@/viewer/light";

vi.mock("vue-router", () => ({ useRouter: vi.fn(), useRoute: vi.fn() }));

function keysOf() {
  const look = {
    light: { ...AS_MADE },
    arranged: { arrangement: "beside", gain: 4 },
    letters: { value: ["A", "B"] },
    resize: vi.fn(),
  };
  const acts = {
    remark: vi.fn(),
    hold: vi.fn(),
    use: vi.fn(),
    lifeSize: vi.fn(),
    call: vi.fn(),
    taking: {
      copyLink: vi.fn(),
      copyPicture: vi.fn(),
      intoReport: vi.fn(),
      wholeScreen: vi.fn(),
    },
  };
  const leave = vi.fn();
  const keys = lookKeys(look as unknown as Look, acts, leave);
  const on = Object.assign({}, ...keys.map((k) => k.on)) as Record<
    string,
    () => void
  >;
  return { look, acts, leave, keys, press: (key: string) => on[key]!() };
}

describe("keys of the close look", () => {
  it("are no letters, which are contenders, and no digits, which could be grades", () => {
    const { keys } = keysOf();
    const taken = keys.flatMap((k) => Object.keys(k.on));
    expect(taken.filter((k) => /^[a-z0-9\\]$/i.test(k))).toEqual([]);
    expect(new Set(taken).size).toBe(taken.length);
    expect(keys.every((k) => k.does.length > 8)).toBe(true);
  });
  it("lift and lower the light, and stop at its ends", () => {
    const { look, press } = keysOf();
    press(">");
    expect(look.light.lift).toBe(1);
    for (let i = 0; i < 20; i++) press("<");
    expect(look.light.lift).toBe(-3);
  });
  it("go round arrangements and planes", () => {
    const { look, press } = keysOf();
    press("(");
    expect(look.light.plane).toBe("noise");
    press(")");
    expect(look.light.plane).toBe("all");
    for (const wanted of ["in place", "reveal", "difference", "beside"]) {
      press(":");
      expect(look.arranged.arrangement).toBe(wanted);
    }
  });
  it("gain what is gained: a difference, or a plane about a middle", () => {
    const { look, press } = keysOf();
    press("*");
    expect([look.arranged.gain, look.light.gain]).toEqual([4, AS_MADE.gain]);
    look.light.plane = "colour";
    press("*");
    expect(look.light.gain).toBe(4);
    look.arranged.arrangement = "difference";
    press("/");
    expect([look.arranged.gain, look.light.gain]).toEqual([2, 4]);
  });
  it("take more and fewer panes, remark, and go back", () => {
    const { look, press, acts, leave } = keysOf();
    press("]");
    press("[");
    expect(look.resize.mock.calls).toEqual([[3], [1]]);
    press("Enter");
    press("#");
    press("Escape");
    expect(acts.remark).toHaveBeenCalledOnce();
    expect(acts.hold).toHaveBeenCalledWith(true);
    expect(leave).toHaveBeenCalledOnce();
  });
  it.each([
    [[1, 2, 3], 2, 1, false, 3],
    [[1, 2, 3], 3, 1, false, 3],
    [[1, 2, 3], 3, 1, true, 1],
    [[1, 2, 3], 1, -1, true, 3],
  ] as const)("next of %j after %i", (all, now, by, round, wanted) =>
    expect(nextOf<number>(all, now, by, round)).toBe(wanted),
  );
});
