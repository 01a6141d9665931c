// @vitest-environment node
import { ref } from "vue";

const told = ref<{ text: string; undo?: () => void }[]>([]);
vi.mock("@/shared/lib/useNotices", () => ({
  useNotices: () => ({
    tell: (text: string, undo?: () => void) => told.value.push({ text, undo }),
    warn: vi.fn(),
  }),
}));
const done = vi.fn();
vi.mock("@/shared/lib/useAct", () => ({
  useAct: () => ({
    act: async (work: () => Promise<unknown>) => {
      const result = await work();
      done();
      return result;
    },
  }),
}));
const { isLeaving, removeNow, useRemoval } =
  await import("@/shared/lib/useRemoval");

describe("removing what can be had back", () => {
  const { remove } = useRemoval(() => []);
  beforeEach(() => {
    vi.useFakeTimers();
    told.value = [];
    done.mockClear();
  });
  afterEach(() => {
    removeNow();
    vi.useRealTimers();
  });

  it("is gone from sight at once and from the bench after the notice", async () => {
    const work = vi.fn(() => Promise.resolve());
    remove("patch 1", "Sky removed.", work);
    expect(isLeaving("patch 1")).toBe(true);
    expect(work).not.toHaveBeenCalled();
    await vi.advanceTimersByTimeAsync(8000);
    expect(work).toHaveBeenCalledOnce();
    expect(isLeaving("patch 1")).toBe(false);
  });

  it("is there again when it is undone, and never goes", async () => {
    const work = vi.fn(() => Promise.resolve());
    remove("patch 2", "Roof removed.", work);
    told.value[0]!.undo!();
    expect(isLeaving("patch 2")).toBe(false);
    await vi.advanceTimersByTimeAsync(20_000);
    expect(work).not.toHaveBeenCalled();
  });

  it("goes at once when the page is left, and only once", async () => {
    const work = vi.fn(() => Promise.resolve());
    remove("contender 3", "C removed.", work);
    removeNow();
    await vi.advanceTimersByTimeAsync(20_000);
    expect(work).toHaveBeenCalledOnce();
  });

  it("keeps several apart", async () => {
    const [one, two] = [
      vi.fn(() => Promise.resolve()),
      vi.fn(() => Promise.resolve()),
    ];
    remove("patch 4", "One removed.", one);
    await vi.advanceTimersByTimeAsync(5000);
    remove("patch 5", "Two removed.", two);
    await vi.advanceTimersByTimeAsync(3000);
    expect([isLeaving("patch 4"), isLeaving("patch 5")]).toEqual([false, true]);
    expect(two).not.toHaveBeenCalled();
    told.value[1]!.undo!();
    await vi.advanceTimersByTimeAsync(9000);
    expect(one).toHaveBeenCalledOnce();
    expect(two).not.toHaveBeenCalled();
  });

  it("comes back in sight when the bench refuses", async () => {
    const work = vi.fn(() => Promise.reject(new Error("no")));
    remove("patch 6", "Six removed.", () => work().catch(() => undefined));
    await vi.advanceTimersByTimeAsync(8000);
    expect(isLeaving("patch 6")).toBe(false);
  });
});
