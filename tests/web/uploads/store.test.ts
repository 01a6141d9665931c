import type * as Client from "@/api/client";
import type * as Store from "@/uploads/store";

const server = {
  begin: vi.fn(),
  finish: vi.fn(),
  sendRest: vi.fn(),
  open: vi.fn(),
  removed: [] as string[],
};
const browser = { keep: vi.fn(), forget: vi.fn(), allKept: vi.fn() };
vi.mock("@/uploads/pieces", () => ({
  begin: (kept: unknown) => server.begin(kept) as unknown,
  finish: (id: unknown) => server.finish(id) as unknown,
  sendRest: (...told: unknown[]) => server.sendRest(...told) as unknown,
}));
vi.mock("@/uploads/keep", () => ({
  keep: (kept: unknown) => browser.keep(kept) as unknown,
  forget: (id: unknown) => browser.forget(id) as unknown,
  allKept: () => browser.allKept() as unknown,
}));
vi.mock("@/api/client", async (load) => ({
  ...(await load<typeof Client>()),
  ask: (call: unknown) => call,
  api: {
    GET: () => server.open() as unknown,
    DELETE: (_: string, told: { params: { path: { upload_id: string } } }) => {
      server.removed.push(told.params.path.upload_id);
      return Promise.resolve();
    },
  },
}));

const DELIVERY = { kind: "frame" } as never;
const told = (state: string, more: object = {}) => ({
  state,
  received: 0,
  problem: "",
  result: null,
  ...more,
});
const file = (name: string, size = 10) => ({ name, size }) as File;
let store: typeof Store;
let Problem: typeof Client.Problem;

beforeEach(async () => {
  vi.useFakeTimers();
  vi.resetModules();
  vi.stubGlobal("window", new EventTarget());
  vi.stubGlobal("navigator", {});
  for (const mock of [
    server.begin,
    server.finish,
    server.sendRest,
    server.open,
    ...Object.values(browser),
  ])
    mock.mockReset();
  server.removed = [];
  server.begin.mockResolvedValue(told("open"));
  server.sendRest.mockResolvedValue(undefined);
  server.finish.mockResolvedValue(told("done"));
  server.open.mockResolvedValue([]);
  browser.allKept.mockResolvedValue([]);
  ({ Problem } = await import("@/api/client"));
  store = await import("@/uploads/store");
});
afterEach(() => vi.useRealTimers());

const settle = () => vi.advanceTimersByTimeAsync(0);
const states = () => store.sending.value.map((i) => i.state);

describe("sending files", () => {
  it("keeps each until it has arrived, then forgets it and tells", async () => {
    const changed = vi.fn();
    store.onArrival(changed);
    store.send(DELIVERY, [file("a.tif")]);
    expect(browser.keep).toHaveBeenCalledTimes(1);
    await settle();
    expect(states()).toEqual(["done"]);
    expect(store.sending.value[0]?.arrived).toBe(10);
    expect([
      browser.forget.mock.calls.length,
      changed.mock.calls.length,
    ]).toEqual([1, 1]);
  });
  it("sends three at a time, the next as soon as one is there", async () => {
    const ends: (() => void)[] = [];
    server.sendRest.mockImplementation(
      () => new Promise<void>((end) => ends.push(end)),
    );
    store.send(
      DELIVERY,
      ["a", "b", "c", "d", "e"].map((n) => file(n)),
    );
    await settle();
    expect(states()).toEqual([
      "sending",
      "sending",
      "sending",
      "waiting",
      "waiting",
    ]);
    ends[1]?.();
    await settle();
    expect(states()).toEqual([
      "sending",
      "done",
      "sending",
      "sending",
      "waiting",
    ]);
  });
  it("makes up a name of its own for each, as a UUID", () => {
    store.send(DELIVERY, [file("a"), file("a")]);
    const ids = store.sending.value.map((i) => i.id);
    expect(new Set(ids).size).toBe(2);
    for (const id of ids)
      expect(id).toMatch(/^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/);
  });
});

describe("what breaks it off", () => {
  it.each([0, 429, 502, 503, 504, 507])(
    "status %d is tried again, at longer intervals, without an end",
    async (status) => {
      server.begin.mockImplementation(() =>
        Promise.reject(new Problem(status, "The disk of this bench is full.")),
      );
      store.send(DELIVERY, [file("a.tif")]);
      await settle();
      for (const [i, seconds] of [1, 2, 4, 8, 15, 15, 15].entries()) {
        expect(states()).toEqual(["broken"]);
        expect(store.sending.value[0]?.problem).toContain(
          `tried again in ${seconds} s`,
        );
        expect(store.sending.value[0]?.problem.includes("disk")).toBe(
          status === 507,
        );
        expect(server.begin).toHaveBeenCalledTimes(i + 1);
        await vi.advanceTimersByTimeAsync(1000 * seconds);
      }
      server.begin.mockResolvedValue(told("open"));
      await vi.advanceTimersByTimeAsync(15_000);
      expect(states()).toEqual(["done"]);
      expect(browser.forget).toHaveBeenCalledTimes(1);
    },
  );
  it("is tried again at once when the machine is back on line", async () => {
    server.begin.mockRejectedValueOnce(new Problem(0, "away"));
    store.send(DELIVERY, [file("a.tif")]);
    await settle();
    window.dispatchEvent(new Event("online"));
    await settle();
    expect(states()).toEqual(["done"]);
  });
  it("begins anew with short pauses once something has arrived", async () => {
    server.begin.mockResolvedValue(told("open", { received: 0 }));
    server.sendRest.mockRejectedValue(new Problem(0, "away"));
    store.send(DELIVERY, [file("a.tif", 100)]);
    await vi.advanceTimersByTimeAsync(1000 + 2000 + 4000);
    server.begin.mockResolvedValue(told("open", { received: 50 }));
    await vi.advanceTimersByTimeAsync(8000);
    expect(store.sending.value[0]?.problem).toContain("again in 1 s");
    expect(store.sending.value[0]?.arrived).toBe(50);
  });
  it.each([400, 404, 413])(
    "status %d is final, is told, and nothing is kept",
    async (status) => {
      server.begin.mockRejectedValue(
        new Problem(status, "a.tif: it is no picture."),
      );
      store.send(DELIVERY, [file("a.tif")]);
      await settle();
      expect([states(), store.sending.value[0]?.problem]).toEqual([
        ["refused"],
        "a.tif: it is no picture.",
      ]);
      expect(browser.forget).toHaveBeenCalledTimes(1);
    },
  );
  it.each([401, 403])(
    "status %d keeps the file for whoever signs in again",
    async (status) => {
      server.begin.mockRejectedValue(new Problem(status, "Sign in."));
      store.send(DELIVERY, [file("a.tif")]);
      await settle();
      expect(states()).toEqual(["refused"]);
      expect(browser.forget).not.toHaveBeenCalled();
    },
  );
  it("a piece out of step is tried three times, then told", async () => {
    server.begin.mockRejectedValue(new Problem(409, "begun with another file"));
    store.send(DELIVERY, [file("a.tif")]);
    await vi.advanceTimersByTimeAsync(1000 + 2000 + 4000);
    expect([states(), server.begin.mock.calls.length]).toEqual([
      ["refused"],
      4,
    ]);
  });
  it("a file that can not be read any more is to be chosen again", async () => {
    server.sendRest.mockRejectedValue(
      new DOMException("gone", "NotFoundError"),
    );
    store.send(DELIVERY, [file("a.tif")]);
    await settle();
    expect(store.sending.value[0]?.problem).toBe(
      "a.tif: it can not be read any more. Choose it again.",
    );
  });
});

describe("a large file", () => {
  it("is waited for while a job keeps it", async () => {
    server.finish
      .mockResolvedValueOnce(told("taking"))
      .mockResolvedValueOnce(told("taking"));
    store.send(DELIVERY, [file("a.tif")]);
    await settle();
    expect([states(), store.sending.value[0]?.arrived]).toEqual([
      ["taking"],
      10,
    ]);
    await vi.advanceTimersByTimeAsync(2000);
    expect(states()).toEqual(["done"]);
  });
  it("that could not be kept is finished again, not sent again", async () => {
    server.finish.mockResolvedValueOnce(
      told("open", { problem: "The disk of this bench is full." }),
    );
    server.begin
      .mockResolvedValueOnce(told("open"))
      .mockResolvedValue(told("taking", { received: 10 }));
    store.send(DELIVERY, [file("a.tif")]);
    await settle();
    expect(store.sending.value[0]?.problem).toContain(
      "The disk of this bench is full.; tried again",
    );
    await vi.advanceTimersByTimeAsync(1000);
    expect([states(), server.sendRest.mock.calls.length]).toEqual([
      ["done"],
      1,
    ]);
  });
});

describe("what comes of it", () => {
  it("is told: on the bench already, or refused for what is in it", async () => {
    server.finish
      .mockResolvedValueOnce(told("done", { result: { known: "Loom table" } }))
      .mockResolvedValueOnce(
        told("refused", { problem: "b.tif: it is cut short." }),
      );
    store.send(DELIVERY, [file("a.tif"), file("b.tif")]);
    await settle();
    const found = store.sending.value.map((i) => [i.state, i.problem]);
    expect(found).toEqual([
      ["known", "on the bench already, as Loom table"],
      ["refused", "b.tif: it is cut short."],
    ]);
    store.clear();
    expect(store.sending.value).toEqual([]);
    expect(server.removed).toEqual([]);
  });
  it("is nothing for one that is dropped on the way: it is removed here and there, and not taken up again", async () => {
    server.begin.mockRejectedValue(new Problem(0, "away"));
    store.send(DELIVERY, [file("a.tif")]);
    await settle();
    const id = store.sending.value[0]?.id ?? "";
    store.drop(id);
    await vi.advanceTimersByTimeAsync(60_000);
    expect([
      store.sending.value,
      server.removed,
      server.begin.mock.calls.length,
    ]).toEqual([[], [id], 1]);
    expect(browser.forget).toHaveBeenCalledWith(id);
  });
});

describe("after a reload", () => {
  it("goes on with what the browser kept, and names what only the server knows of", async () => {
    browser.allKept.mockResolvedValue([
      { id: "k", file: file("kept.tif", 7), delivery: DELIVERY },
    ]);
    server.open.mockResolvedValue([
      { id: "k", name: "kept.tif", size: 7, received: 3, delivery: DELIVERY },
      { id: "s", name: "lost.tif", size: 9, received: 4, delivery: DELIVERY },
    ]);
    await store.takeUp();
    await settle();
    expect(
      store.sending.value.map((i) => [i.name, i.state, i.arrived]),
    ).toEqual([
      ["kept.tif", "done", 7],
      ["lost.tif", "astray", 4],
    ]);
    // Choosing the same file again goes on under the same name.
    store.send(DELIVERY, [file("lost.tif", 9)]);
    await settle();
    expect([states(), store.sending.value.length]).toEqual([
      ["done", "done"],
      2,
    ]);
    expect(
      server.begin.mock.calls.map(([kept]) => (kept as { id: string }).id),
    ).toEqual(["k", "s"]);
  });
  it("takes a file of another size for another file", async () => {
    server.open.mockResolvedValue([
      { id: "s", name: "lost.tif", size: 9, received: 4, delivery: DELIVERY },
    ]);
    await store.takeUp();
    store.send(DELIVERY, [file("lost.tif", 8)]);
    await settle();
    expect(states()).toEqual(["astray", "done"]);
  });
  it("takes nothing up twice", async () => {
    browser.allKept.mockResolvedValue([
      { id: "k", file: file("kept.tif"), delivery: DELIVERY },
    ]);
    await Promise.all([store.takeUp(), store.takeUp()]);
    await settle();
    expect(store.sending.value).toHaveLength(1);
  });
});
