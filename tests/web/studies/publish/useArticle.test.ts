import { effectScope, type EffectScope, nextTick, ref } from "vue";

import { Problem } from "@/api/client";
import { useArticle } from "@/studies/publish/useArticle";

const server = vi.hoisted(() => ({
  data: undefined as unknown as { value: unknown },
  versions: undefined as unknown as { value: unknown },
  put: vi.fn(),
  stale: vi.fn(() => Promise.resolve()),
  told: [] as string[],
}));
vi.mock("@tanstack/vue-query", () => ({
  useQueryClient: () => ({
    getQueryData: () => ({ user: "ada" }),
    invalidateQueries: server.stale,
  }),
}));
vi.mock("@/studies/publish/queries", () => ({
  useReport: () => ({ data: server.data, error: ref(null) }),
  useVersions: () => ({ data: server.versions }),
}));
vi.mock("@/studies/publish/mutations", () => ({ putReport: server.put }));
vi.mock("@/shared/lib/useNotices", () => ({
  useNotices: () => ({
    tell: (words: string) => server.told.push(words),
    warn: (why: Error) => server.told.push(why.message),
  }),
}));

const texts = (summary: string, method = "") => ({
  summary,
  method,
  disclosure: "",
  blocks: [],
});
const read = (summary: string, tag: string, method = "") => ({
  data: texts(summary, method),
  tag,
});
let scope: EffectScope;
function begun(summary = "before") {
  server.data = ref(read(summary, "v1"));
  server.versions = ref([{ id: 7, saved: "noon" }]);
  scope = effectScope();
  return scope.run(() => useArticle(1, true))!;
}
const rest = (ms: number) => vi.advanceTimersByTimeAsync(ms);

beforeEach(() => {
  vi.useFakeTimers();
  server.told = [];
  server.put.mockReset().mockResolvedValue({ data: {}, tag: "v2" });
  vi.stubGlobal("localStorage", {
    getItem: () => null,
    setItem: () => {},
    removeItem: () => {},
  });
});
afterEach(() => {
  scope.stop();
  vi.useRealTimers();
});

describe("an article", () => {
  it("is saved by itself once its writer rests, with the version that was read", async () => {
    const article = begun();
    article.write({ summary: "now" });
    await rest(2000);
    article.write({ summary: "now, and" });
    await rest(2000);
    expect(server.put).not.toHaveBeenCalled();
    await rest(1000);
    expect(server.put).toHaveBeenCalledExactlyOnceWith(
      1,
      { ...texts("now, and"), auto: true },
      { "If-Match": "v1" },
    );
    expect(article.changed.value).toBe(false);
    expect(server.told).toEqual([]);
  });
  it("keeps what is written while it is being saved", async () => {
    const article = begun();
    let end: (value: unknown) => void = () => {};
    server.put.mockReturnValueOnce(new Promise((done) => (end = done)));
    article.write({ summary: "one" });
    await rest(2600);
    article.write({ summary: "one, two" });
    end({ data: {}, tag: "v2" });
    await rest(10);
    expect(article.text.value.summary).toBe("one, two");
    expect(article.changed.value).toBe(true);
    await rest(2600);
    expect(server.put).toHaveBeenLastCalledWith(
      1,
      { ...texts("one, two"), auto: true },
      { "If-Match": "v2" },
    );
  });
  it("is saved when asked though it is just being saved by itself", async () => {
    const article = begun();
    let end: (value: unknown) => void = () => {};
    server.put.mockReturnValueOnce(new Promise((done) => (end = done)));
    article.write({ summary: "now" });
    await rest(2600);
    const asked = article.save();
    end({ data: {}, tag: "v2" });
    await asked;
    expect(
      server.put.mock.calls.map(([, body]) => (body as { auto: boolean }).auto),
    ).toEqual([true, false]);
    expect(server.told).toEqual(["Report saved."]);
  });
  it("says why it was not saved, and tries again without being asked", async () => {
    const article = begun();
    server.put.mockRejectedValueOnce(new Error("away"));
    article.write({ summary: "now" });
    await rest(2600);
    expect([article.trouble.value, article.changed.value]).toEqual([
      "away",
      true,
    ]);
    expect(server.told).toEqual([]);
    await rest(10_000);
    expect([article.trouble.value, article.changed.value]).toEqual(["", false]);
  });
  it("is read again once there is a newer version of it", async () => {
    begun();
    server.stale.mockClear();
    server.versions.value = [{ id: 7, saved: "noon" }];
    await nextTick();
    expect(server.stale).not.toHaveBeenCalled();
    server.versions.value = [{ id: 7, saved: "later" }];
    await nextTick();
    expect(server.stale).toHaveBeenCalledTimes(1);
  });
  it("shows what somebody else saved, unless something is being written", async () => {
    const article = begun();
    server.data.value = read("theirs", "v2");
    await nextTick();
    expect(article.text.value.summary).toBe("theirs");
    article.write({ summary: "mine" });
    server.data.value = read("theirs again", "v3");
    await nextTick();
    expect(article.text.value.summary).toBe("mine");
  });
  it.each([
    [
      "other parts are brought together",
      read("before", "v2", "theirs"),
      "theirs",
    ],
    ["the same part is left to its writer", read("theirs", "v2"), null],
  ])("of two writers: %s", async (_, now, both) => {
    const article = begun();
    const current = { current: now.data, tag: now.tag };
    server.put.mockRejectedValueOnce(new Problem(412, "changed", current));
    article.write({ summary: "mine" });
    await article.save();
    expect(article.text.value).toEqual(texts("mine", both ?? ""));
    expect(article.theirs.value?.summary).toBe(both ? undefined : "theirs");
    if (both)
      expect(server.put).toHaveBeenLastCalledWith(
        1,
        { ...texts("mine", "theirs"), auto: false },
        { "If-Match": "v2" },
      );
    else {
      // It is not saved by itself as long as nobody chose.
      await rest(30_000);
      expect(server.put).toHaveBeenCalledTimes(1);
      article.takeTheirs();
      expect(article.text.value.summary).toBe("theirs");
    }
  });
  it("is taken back and brought forward step by step, not beyond what was read", async () => {
    const article = begun();
    for (const summary of ["one", "two"]) {
      article.write({ summary });
      await rest(600);
    }
    const seen = [];
    while (article.canUndo.value) {
      article.step("undo");
      seen.push(article.text.value.summary);
    }
    article.step("redo");
    expect([...seen, article.text.value.summary]).toEqual([
      "one",
      "before",
      "one",
    ]);
  });
});
