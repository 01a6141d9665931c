import { computed, nextTick, ref } from "vue";

import { Problem } from "@/api/client";
import { keepUnsaved, useVersioned } from "@/shared/lib/useVersioned";

let writer = "ada";
vi.mock("@tanstack/vue-query", () => ({
  useQueryClient: () => ({ getQueryData: () => ({ user: writer }) }),
}));

class Kept {
  kept = new Map<string, string>();
  getItem = (name: string) => this.kept.get(name) ?? null;
  setItem = (name: string, text: string) => void this.kept.set(name, text);
  removeItem = (name: string) => void this.kept.delete(name);
}
let storage: Kept;
beforeEach(() => {
  storage = new Kept();
  writer = "ada";
  vi.stubGlobal("localStorage", storage);
});

describe("a version", () => {
  it("is sent with a change once it is known", () => {
    const { tag, headers } = useVersioned();
    expect(headers()).toEqual({});
    tag.value = '"v1"';
    expect(headers()).toEqual({ "If-Match": '"v1"' });
  });
  it("that is outdated shows what somebody else wrote, and lets one put one's own in its place", async () => {
    const { tag, theirs, headers, guarded } = useVersioned<{ text: string }>(
      ref('"v1"'),
    );
    const refused = new Problem(412, "changed", {
      current: { text: "theirs" },
      tag: '"v2"',
    });
    await expect(guarded(() => Promise.reject(refused))).rejects.toBe(refused);
    expect([theirs.value, tag.value]).toEqual([{ text: "theirs" }, '"v2"']);
    expect(headers()).toEqual({ "If-Match": '"v2"' });
    expect(await guarded(() => Promise.resolve("kept"))).toBe("kept");
    expect(theirs.value).toBeNull();
  });
  it("is not touched by what else may go wrong", async () => {
    const { tag, theirs, guarded } = useVersioned(ref('"v1"'));
    for (const error of [
      new Problem(412, "changed"),
      new Problem(500, "broken"),
      new Error("away"),
    ])
      await expect(guarded(() => Promise.reject(error))).rejects.toBe(error);
    expect([theirs.value, tag.value]).toEqual([null, '"v1"']);
  });
});

describe("what is not saved", () => {
  const form = () => ({
    text: ref({ summary: "" }),
    changed: ref(false),
    tag: ref(""),
  });
  const opened = () => {
    const made = form();
    keepUnsaved("report-1", made.text, made.changed, made.tag);
    return made;
  };
  it("is there again after a reload, with the version it began with, and gone once it is saved", async () => {
    const first = opened();
    first.tag.value = '"v1"';
    first.text.value.summary = "A is softer.";
    first.changed.value = true;
    await nextTick();
    const second = opened();
    expect([second.text.value, second.tag.value, second.changed.value]).toEqual(
      [{ summary: "A is softer." }, '"v1"', true],
    );
    second.changed.value = false;
    await nextTick();
    expect(opened().text.value).toEqual({ summary: "" });
    expect(storage.kept.size).toBe(0);
  });
  it("is its writer's: nobody else who signs in here sees it", async () => {
    const mine = opened();
    mine.text.value.summary = "Mine.";
    mine.changed.value = true;
    await nextTick();
    writer = "bo";
    expect(opened().text.value).toEqual({ summary: "" });
    writer = "ada";
    expect(opened().text.value).toEqual({ summary: "Mine." });
  });
  it("follows every key, and belongs to its own form", async () => {
    const mine = opened();
    mine.changed.value = true;
    for (const summary of ["A", "A is", "A is softer"]) {
      mine.text.value.summary = summary;
      await nextTick();
      expect([...storage.kept.keys()]).toEqual([
        "glenhail-unsaved-ada-report-1",
      ]);
      expect(JSON.parse([...storage.kept.values()][0] ?? "").text).toEqual({
        summary,
      });
    }
    const other = form();
    keepUnsaved("report-2", other.text, other.changed, other.tag);
    expect(other.text.value).toEqual({ summary: "" });
  });
  it("tells itself that it changed where that is worked out", async () => {
    const text = ref({ summary: "" });
    const changed = computed(() => text.value.summary !== "");
    keepUnsaved("report-3", text, changed, ref(""));
    text.value.summary = "typed";
    await nextTick();
    expect(storage.kept.size).toBe(1);
    text.value.summary = "";
    await nextTick();
    expect(storage.kept.size).toBe(0);
  });
});
