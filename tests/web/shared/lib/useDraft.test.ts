import { computed, nextTick, ref } from "vue";

import { useDraft } from "@/shared/lib/useDraft";
import { keepUnsaved } from "@/shared/lib/useVersioned";

vi.mock("@/shared/lib/useVersioned", () => ({
  keepUnsaved: vi.fn(),
}));

interface Facts {
  name: string;
  modes: string[];
}
const blank = (): Facts => ({ name: "", modes: [] });

function opened() {
  const saved = ref<(Facts & { version: string; id: number }) | undefined>();
  const form = useDraft<Facts>("tool-1", blank, () => saved.value);
  const arrives = async (
    name: string,
    version: string,
    modes: string[] = [],
  ) => {
    saved.value = { name, modes, version, id: 1 };
    await nextTick();
  };
  return { ...form, saved, arrives };
}

describe("a form's draft", () => {
  it("is blank until something was saved, and follows that while nothing is typed", async () => {
    const { draft, changed, tag, arrives } = opened();
    expect(draft.value).toEqual(blank());
    await arrives("Keenfold", "v1", ["thread"]);
    expect(draft.value).toEqual({ name: "Keenfold", modes: ["thread"] });
    await arrives("Keenfold 2", "v2");
    expect([draft.value.name, tag.value, changed.value]).toEqual([
      "Keenfold 2",
      "v2",
      false,
    ]);
  });

  it("keeps what is being typed, and the version it began with, when something else is saved", async () => {
    const { draft, changed, tag, arrives } = opened();
    await arrives("Keenfold", "v1");
    draft.value.name = "Mine";
    expect(changed.value).toBe(true);
    await arrives("Theirs", "v2");
    expect([draft.value.name, tag.value, changed.value]).toEqual([
      "Mine",
      "v1",
      true,
    ]);
  });

  it("is done when one's own text comes back", async () => {
    const { draft, changed, tag, arrives } = opened();
    await arrives("Keenfold", "v1");
    draft.value.modes.push("weave");
    await arrives("Keenfold", "v2", ["weave"]);
    expect([changed.value, tag.value]).toEqual([false, "v2"]);
    await arrives("Theirs", "v3");
    expect(draft.value.name).toBe("Theirs");
  });

  it("shows what was saved again when it is given up", async () => {
    const { draft, changed, tag, arrives, follow } = opened();
    await arrives("Keenfold", "v1");
    draft.value.name = "Mine";
    await arrives("Theirs", "v2");
    follow();
    expect([draft.value.name, tag.value, changed.value]).toEqual([
      "Theirs",
      "v2",
      false,
    ]);
  });

  it("does not write into what was saved", async () => {
    const { draft, saved, arrives } = opened();
    await arrives("Keenfold", "v1", ["thread"]);
    draft.value.modes.push("weave");
    expect(saved.value?.modes).toEqual(["thread"]);
  });

  it("holds the form's own fields and no others", async () => {
    const { draft, arrives } = opened();
    await arrives("Keenfold", "v1");
    expect(Object.keys(draft.value)).toEqual(["name", "modes"]);
  });

  it("is kept under its own name while it is not saved", () => {
    const { draft, tag, changed } = opened();
    expect(keepUnsaved).toHaveBeenLastCalledWith("tool-1", draft, changed, tag);
    expect(computed(() => changed.value).value).toBe(false);
  });
});
