import { QueryClient } from "@tanstack/vue-query";

import { Stale } from "@/shared/lib/useStale";

const STUDY = ["study", 1, "page"];
const READINGS = ["study", 1, "readings"];

describe("calling things stale", () => {
  let busy: string[];
  let asked: string[];
  let stale: Stale;

  beforeEach(() => {
    vi.useFakeTimers();
    busy = [];
    asked = [];
    const client = {
      isFetching: ({ queryKey }: { queryKey: readonly unknown[] }) =>
        busy.includes(queryKey.join("/")) ? 1 : 0,
      invalidateQueries: ({ queryKey }: { queryKey: readonly unknown[] }) => {
        asked.push(queryKey.join("/"));
        return Promise.resolve();
      },
    };
    stale = new Stale(client as unknown as QueryClient);
  });
  afterEach(() => vi.useRealTimers());

  it("asks at once the first time", () => {
    stale.add([STUDY]);
    expect(asked).toEqual(["study/1/page"]);
  });

  it("asks at most once a second, however many changes there are", () => {
    for (let i = 0; i < 40; i++) stale.add([STUDY, READINGS]);
    expect(asked).toEqual(["study/1/page", "study/1/readings"]);
    vi.advanceTimersByTime(1000);
    expect(asked).toHaveLength(4);
    vi.advanceTimersByTime(5000);
    expect(asked).toHaveLength(4);
  });

  it("does not break off what is being read, and reads it once more afterwards", () => {
    busy = ["study/1/page"];
    stale.add([STUDY]);
    vi.advanceTimersByTime(3000);
    expect(asked).toEqual([]);
    busy = [];
    vi.advanceTimersByTime(1000);
    expect(asked).toEqual(["study/1/page"]);
  });

  it("comes to rest, and begins again", () => {
    stale.add([STUDY]);
    vi.advanceTimersByTime(10_000);
    expect(vi.getTimerCount()).toBe(0);
    stale.add([READINGS]);
    expect(asked).toEqual(["study/1/page", "study/1/readings"]);
  });

  it("asks for nothing where nothing changed", () => {
    stale.add([]);
    vi.advanceTimersByTime(3000);
    expect(asked).toEqual([]);
  });
});
