// @vitest-environment node
import { ref } from "vue";

import { Problem } from "@/api/client";

const told = ref<{ text: string; undo?: () => void }[]>([]);
vi.mock("@/shared/lib/useNotices", () => ({
  useNotices: () => ({
    tell: (text: string, undo?: () => void) => told.value.push({ text, undo }),
    warn: vi.fn(),
  }),
}));
vi.mock("@/shared/lib/useAct", () => ({
  useAct: () => ({
    act: (work: () => Promise<unknown>) => work().catch(() => undefined),
  }),
}));
const sent = vi.fn<(address: string) => Promise<void>>();
vi.mock("@/api/client", async (original) => ({
  ...(await original<object>()),
  deleteAt: (address: string) => sent(address),
}));
const tab = new Map<string, string>();
vi.stubGlobal("sessionStorage", {
  getItem: (key: string) => tab.get(key) ?? null,
  setItem: (key: string, value: string) => void tab.set(key, value),
});
const { finishRemovals, isLeaving, removeNow, useRemoval } =
  await import("@/shared/lib/useRemoval");
const kept = () => JSON.parse(tab.get("glenhail.removals") ?? "{}") as object;

describe("removing what can be had back", () => {
  const { remove } = useRemoval(() => []);
  beforeEach(() => {
    vi.useFakeTimers();
    told.value = [];
    tab.clear();
    sent.mockReset().mockResolvedValue();
  });
  afterEach(() => {
    removeNow();
    vi.useRealTimers();
  });

  it("is gone from sight at once and from the bench after the notice", async () => {
    remove("patch 1", "Sky removed.", "/api/patches/1");
    expect(isLeaving("patch 1")).toBe(true);
    expect(sent).not.toHaveBeenCalled();
    await vi.advanceTimersByTimeAsync(8000);
    expect(sent).toHaveBeenCalledExactlyOnceWith("/api/patches/1");
    expect(isLeaving("patch 1")).toBe(false);
    expect(kept()).toEqual({});
  });

  it("is there again when it is undone, and never goes", async () => {
    remove("patch 2", "Roof removed.", "/api/patches/2");
    told.value[0]!.undo!();
    expect(isLeaving("patch 2")).toBe(false);
    expect(kept()).toEqual({});
    await vi.advanceTimersByTimeAsync(20_000);
    expect(sent).not.toHaveBeenCalled();
  });

  it("goes at once when the page is left, and only once", async () => {
    remove("contender 3", "C removed.", "/api/contenders/3");
    removeNow();
    expect(sent).toHaveBeenCalledOnce(); // before the handler of the event returns
    await vi.advanceTimersByTimeAsync(20_000);
    expect(sent).toHaveBeenCalledOnce();
  });

  it("keeps several apart", async () => {
    remove("patch 4", "One removed.", "/api/patches/4");
    await vi.advanceTimersByTimeAsync(5000);
    remove("patch 5", "Two removed.", "/api/patches/5");
    await vi.advanceTimersByTimeAsync(3000);
    expect([isLeaving("patch 4"), isLeaving("patch 5")]).toEqual([false, true]);
    told.value[1]!.undo!();
    await vi.advanceTimersByTimeAsync(9000);
    expect(sent.mock.calls).toEqual([["/api/patches/4"]]);
  });

  it("comes back in sight when the bench refuses", async () => {
    sent.mockRejectedValue(new Problem(409, "no"));
    remove("patch 6", "Six removed.", "/api/patches/6");
    await vi.advanceTimersByTimeAsync(8000);
    expect(isLeaving("patch 6")).toBe(false);
    expect(kept()).toEqual({});
  });
});

describe("what a page that was torn down left undone", () => {
  const left = { "patch 7": "/api/patches/7" };
  beforeEach(() => tab.set("glenhail.removals", JSON.stringify(left)));

  it.each([
    ["done", () => Promise.resolve(), {}],
    ["gone already", () => Promise.reject(new Problem(404, "none")), {}],
    ["refused", () => Promise.reject(new Problem(403, "not yours")), {}],
    ["turned away", () => Promise.reject(new Problem(429, "later")), left],
    ["signed out", () => Promise.reject(new Problem(401, "sign in")), left],
    ["not answered", () => Promise.reject(new Problem(0, "no server")), left],
  ])("is carried out by the next: %s", async (_, answer, stays) => {
    sent.mockReset().mockImplementation(answer);
    await finishRemovals();
    expect(sent).toHaveBeenCalledExactlyOnceWith("/api/patches/7");
    expect(kept()).toEqual(stays);
    expect(isLeaving("patch 7")).toBe(false);
  });

  it("passes over what it cannot read", async () => {
    tab.set("glenhail.removals", "{");
    sent.mockReset();
    await finishRemovals();
    expect(sent).not.toHaveBeenCalled();
  });
});
