import { computed, createApp, ref } from "vue";

import { Problem } from "@/api/client";
import { provideNotices, useNotices } from "@/shared/lib/useNotices";

const stale = vi.fn();
vi.mock("@tanstack/vue-query", () => ({
  useQueryClient: () => ({
    invalidateQueries: async ({ queryKey }: { queryKey: unknown }) =>
      stale(queryKey),
  }),
}));
vi.mock("@/shared/lib/useNotices", async (original) => {
  const plain = await original<{ provideNotices: typeof provideNotices }>();
  let notices: ReturnType<typeof provideNotices> | undefined;
  const app = createApp({});
  const made = () =>
    (notices ??= app.runWithContext(() => plain.provideNotices()));
  return { ...plain, useNotices: made };
});
const { useAct } = await import("@/shared/lib/useAct");

const notices = useNotices();
const last = computed(() => notices.waiting.value.at(-1));

describe("doing something at the server", () => {
  const study = ref(4);
  const { act, busy } = useAct(() => [["study", study.value], ["queue"]]);
  beforeEach(() => {
    notices.waiting.value = [];
    stale.mockClear();
  });

  it("reads again what it made stale, by the keys of now, and then says that it was done", async () => {
    study.value = 5;
    let during = false;
    const result = await act(async () => {
      during = busy.value;
      return 7;
    }, "Saved.");
    expect([result, during, busy.value]).toEqual([7, true, false]);
    expect(stale.mock.calls).toEqual([[["study", 5]], [["queue"]]]);
    expect([last.value?.text, last.value?.color]).toEqual([
      "Saved.",
      "secondary",
    ]);
  });

  it("says nothing where nothing is to be said", async () => {
    await act(async () => 1);
    expect(notices.waiting.value).toEqual([]);
  });

  it("offers to take it back, and leaves more time for that", async () => {
    const undo = vi.fn(async () => undefined);
    await act(async () => 3, { done: (n) => `${n} added.`, undo });
    const told = last.value!;
    expect(told.text).toBe("3 added.");
    await act(async () => 3, "Saved.");
    expect(told.timeout).toBeGreaterThan(last.value!.timeout);
    told.undo!();
    expect(undo).toHaveBeenCalledExactlyOnceWith(3);
  });

  it("tells what went wrong, reads nothing again and is no longer busy", async () => {
    const result = await act(async () => {
      throw new Problem(409, "An edition is being prepared.");
    }, "Saved.");
    expect([result, busy.value]).toEqual([undefined, false]);
    expect(stale).not.toHaveBeenCalled();
    expect([last.value?.text, last.value?.color]).toEqual([
      "An edition is being prepared.",
      "error",
    ]);
  });

  it("reads it again where somebody else changed it meanwhile", async () => {
    await act(async () => {
      throw new Problem(412, "Changed meanwhile.");
    });
    expect(stale).toHaveBeenCalledTimes(2);
  });

  it("tells even what is no error", async () => {
    await act(() => Promise.reject("no"));
    expect(last.value?.text).toBe("no");
  });
});
