// @vitest-environment node
import { effectScope, ref } from "vue";

vi.stubGlobal(
  "ResizeObserver",
  class {
    observe = vi.fn();
    disconnect = vi.fn();
  },
);
const screen = { devicePixelRatio: 1 };
vi.stubGlobal("window", screen);
const { usePanZoom } = await import("@/viewer/usePanZoom");

function ground() {
  return {
    getBoundingClientRect: () => ({ left: 100, top: 50 }),
    setPointerCapture: vi.fn(),
    focus: vi.fn(),
  };
}

function opened(more = {}) {
  const element = ground();
  const moves = {
    pan: vi.fn(),
    zoom: vi.fn(),
    whole: vi.fn(),
    click: vi.fn(),
    hover: vi.fn(),
  };
  const made = effectScope().run(() =>
    usePanZoom(ref(element as unknown as HTMLElement), { ...moves, ...more }),
  )!;
  return { ...made, ...moves, element };
}
const pointer = (x: number, y: number, button = 0) =>
  ({ clientX: 100 + x, clientY: 50 + y, button, pointerId: 1 }) as PointerEvent;
const turn = (deltaY: number, deltaMode = 0) =>
  ({ clientX: 110, clientY: 70, deltaY, deltaMode }) as WheelEvent;
const key = (name: string, held: Partial<KeyboardEvent> = {}) =>
  ({ key: name, preventDefault: vi.fn(), ...held }) as unknown as KeyboardEvent;

describe("a viewer under the hand", () => {
  beforeEach(() => {
    vi.spyOn(console, "warn").mockImplementation(() => undefined);
    screen.devicePixelRatio = 1;
  });

  it("follows a drag piece by piece, and none after it was let go", () => {
    const { on, pan, click, element } = opened();
    on.pointerdown(pointer(10, 10));
    expect(element.setPointerCapture).toHaveBeenCalledWith(1);
    on.pointermove(pointer(30, 15));
    on.pointermove(pointer(31, 15));
    on.pointerup(pointer(31, 15));
    on.pointermove(pointer(90, 90));
    expect(pan.mock.calls).toEqual([
      [20, 5],
      [1, 0],
    ]);
    expect(click).not.toHaveBeenCalled();
  });

  it("takes a press that hardly moved for a click, and loses no way of a slow drag", () => {
    const { on, pan, click } = opened();
    on.pointerdown(pointer(10, 10));
    on.pointermove(pointer(12, 11));
    on.pointerup(pointer(12, 11));
    expect(pan).not.toHaveBeenCalled();
    expect(click.mock.calls[0]?.slice(0, 2)).toEqual([12, 11]);
    on.pointerdown(pointer(10, 10));
    for (const x of [12, 13, 14, 15]) on.pointermove(pointer(x, 10));
    const way = pan.mock.calls.reduce((sum, [dx]) => sum + Number(dx), 0);
    expect(way).toBe(5);
  });

  it("neither drags nor clicks by another button, or once the press was called off", () => {
    const { on, pan, click } = opened();
    on.pointerdown(pointer(10, 10, 2));
    on.pointermove(pointer(80, 80));
    on.pointerup(pointer(80, 80));
    on.pointerdown(pointer(10, 10));
    on.pointercancel();
    on.pointermove(pointer(60, 60));
    on.pointerup(pointer(60, 60));
    expect(pan).not.toHaveBeenCalled();
    expect(click).not.toHaveBeenCalled();
  });

  it("tells places in device pixels", () => {
    screen.devicePixelRatio = 1.5;
    const { on, hover } = opened();
    on.pointermove(pointer(10, 20));
    expect(hover).toHaveBeenCalledWith(15, 30);
  });

  it.each([
    ["a notch of a wheel", [[-100, 0]], [1]],
    ["a wheel that tells lines", [[3, 1]], [-1]],
    ["many small turns of a pad", Array(9).fill([5, 0]), [-1]],
    [
      "a trembling hand",
      [
        [30, 0],
        [-30, 0],
        [30, 0],
        [-30, 0],
      ],
      [],
    ],
    [
      "two notches, there and back",
      [
        [-120, 0],
        [120, 0],
      ],
      [1, -1],
    ],
  ])("is magnified by %s", (_, turns, wanted) => {
    const { wheel, zoom } = opened();
    for (const [by, mode] of turns as [number, number][]) wheel(turn(by, mode));
    expect(zoom.mock.calls).toEqual(
      (wanted as number[]).map((d) => [d, 10, 20]),
    );
  });

  it.each([
    ["ArrowLeft", {}, "pan", [40, 0]],
    ["ArrowDown", { shiftKey: true }, "pan", [0, -240]],
    ["+", {}, "zoom", [1]],
    ["=", {}, "zoom", [1]],
    ["-", {}, "zoom", [-1]],
    ["0", {}, "whole", []],
  ] as const)("takes %s", (name, held, which, wanted) => {
    const { keyed, ...moves } = opened();
    const pressed = key(name, held);
    expect(keyed(pressed)).toBe(true);
    expect(moves[which]).toHaveBeenCalledExactlyOnceWith(...wanted);
    expect(pressed.preventDefault).toHaveBeenCalled();
  });

  it.each([
    ["Tab", {}],
    ["0", { ctrlKey: true }],
    ["+", { metaKey: true }],
    ["t", {}],
  ])("leaves %s to others", (name, held) => {
    const { keyed } = opened();
    const pressed = key(name, held);
    expect(keyed(pressed)).toBe(false);
    expect(pressed.preventDefault).not.toHaveBeenCalled();
  });

  it("leaves 0 alone where there is no whole to show", () => {
    expect(opened({ whole: undefined }).keyed(key("0"))).toBe(false);
  });
});
