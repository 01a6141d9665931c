import { ref } from "vue";

const sending = ref<{ state: string; size: number; arrived: number }[]>([]);
vi.mock("@/uploads/store", () => ({ sending }));
// Intervals run in browsers alone.
vi.stubGlobal("window", globalThis);
vi.stubGlobal("document", {});
const { useRate } = await import("@/uploads/useRate");

const MB = 1e6;
const tick = () => vi.advanceTimersByTime(1000);
function arrives(megabytes: number): void {
  sending.value[0]!.arrived += megabytes * MB;
  tick();
}

describe("how fast files arrive", () => {
  afterEach(() => vi.useRealTimers());
  beforeEach(() => {
    vi.useFakeTimers();
    sending.value = [
      { state: "sending", size: 100 * MB, arrived: 0 },
      { state: "waiting", size: 50 * MB, arrived: 0 },
      { state: "refused", size: 70 * MB, arrived: 0 },
    ];
  });

  it("is not known before a second has passed", () => {
    const { perSecond, secondsLeft } = useRate();
    tick();
    expect([perSecond.value, secondsLeft.value]).toEqual([0, null]);
  });

  it("is told per second, and what is left does not count what was refused", () => {
    const { perSecond, secondsLeft } = useRate();
    tick();
    arrives(5);
    arrives(5);
    expect(perSecond.value).toBe(5 * MB);
    expect(secondsLeft.value).toBe((100 - 10 + 50) / 5);
  });

  it("is of the last eight seconds: a line that became slow is told so", () => {
    const { perSecond } = useRate();
    tick();
    for (let i = 0; i < 10; i++) arrives(6);
    expect(perSecond.value).toBe(6 * MB);
    for (let i = 0; i < 8; i++) arrives(1);
    expect(perSecond.value).toBe(MB);
  });

  it("is none while nothing arrives, when nothing is left, and never less than that", () => {
    const { perSecond, secondsLeft } = useRate();
    tick();
    tick();
    expect([perSecond.value, secondsLeft.value]).toEqual([0, null]);
    arrives(10);
    sending.value[0]!.arrived = 2 * MB; // begun again from an earlier piece
    tick();
    expect(perSecond.value).toBeGreaterThanOrEqual(0);
    sending.value = [];
    tick();
    expect(perSecond.value).toBe(0);
  });
});
