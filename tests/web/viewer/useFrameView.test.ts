// @vitest-environment node
import { effectScope, nextTick } from "vue";

const route = { query: {} as Record<string, string> };
vi.mock("vue-router", () => ({ useRoute: () => route }));
const replaced = vi.fn();
vi.stubGlobal("window", {
  setTimeout: (work: () => void, ms: number) => setTimeout(work, ms),
  clearTimeout: (timer: number) => clearTimeout(timer),
  history: { state: 7, replaceState: replaced },
  location: { pathname: "/frames/3" },
});
const { useFrameView } = await import("@/viewer/useFrameView");

const PICTURE = { width: 2400, height: 1600 };
const CANVAS = { width: 1200, height: 800 };

function opened(at = "") {
  route.query = at ? { at } : {};
  return effectScope().run(() =>
    useFrameView(
      () => PICTURE,
      () => CANVAS,
    ),
  )!;
}
describe("where one looks at a picture", () => {
  beforeEach(() => {
    // No component stands around it, of which Vue warns.
    vi.spyOn(console, "warn").mockImplementation(() => undefined);
    vi.useFakeTimers();
    replaced.mockClear();
  });
  afterEach(() => vi.useRealTimers());

  it("is the whole of it until somebody says otherwise", () => {
    const { view, settle } = opened();
    expect(view.value.zoom).toBe(0);
    settle();
    expect(view.value).toEqual({ x: 1200, y: 800, zoom: 0.5 });
  });

  it.each([
    ["600.0,400.0,2", { x: 600, y: 400, zoom: 2 }],
    // A corner is a place like any other.
    ["0.0,0.0,4", { x: 0, y: 0, zoom: 4 }],
    ["0.0,800.0,1", { x: 0, y: 800, zoom: 1 }],
  ])("is what the address %s says", (at, wanted) => {
    const { view, settle } = opened(at);
    settle();
    expect(view.value).toEqual(wanted);
  });

  it.each(["", "x", "1,2", "1,2,0", "a,b,2", ",,", "NaN,1,1"])(
    "is the whole where the address says %j",
    (at) => {
      const { view, settle } = opened(at);
      settle();
      expect(view.value.zoom).toBe(0.5);
    },
  );

  it("goes as a hand moves it, and not out of the picture", () => {
    const { view, pan } = opened("600,400,2");
    pan(-40, 240);
    expect([view.value.x, view.value.y]).toEqual([620, 280]);
    pan(1e6, -1e6);
    expect([view.value.x, view.value.y]).toEqual([0, PICTURE.height]);
  });

  it("is enlarged step by step about its middle, to the last step and no further", () => {
    const { view, zoom, whole } = opened("600,400,1");
    zoom(1);
    expect(view.value).toEqual({ x: 600, y: 400, zoom: 2 });
    for (let i = 0; i < 9; i++) zoom(1);
    expect(view.value.zoom).toBe(8);
    zoom(-1);
    expect(view.value.zoom).toBe(4);
    whole();
    expect(view.value).toEqual({ x: 1200, y: 800, zoom: 0.5 });
  });

  it("keeps the place under the pointer when it is enlarged there", () => {
    const { view, zoom } = opened("600,400,1");
    const under = () => ({
      x: view.value.x + (300 - CANVAS.width / 2) / view.value.zoom,
      y: view.value.y + (200 - CANVAS.height / 2) / view.value.zoom,
    });
    const before = under();
    zoom(1, 300, 200);
    expect(under()).toEqual(before);
  });

  it("is written into the address once it rests, without a page change", async () => {
    const { pan, zoomTo } = opened("600,400,1");
    pan(10, 0);
    await nextTick();
    vi.advanceTimersByTime(300);
    zoomTo(1 / 3);
    await nextTick();
    vi.advanceTimersByTime(399);
    expect(replaced).not.toHaveBeenCalled();
    vi.advanceTimersByTime(1);
    expect(replaced).toHaveBeenCalledExactlyOnceWith(
      7,
      "",
      "/frames/3?at=590.0,400.0,0.3333",
    );
  });
});
