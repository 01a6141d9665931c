import { everyPage, PAGE } from "@/api/pages";

const rows = (from: number, to: number) =>
  Array.from({ length: from - to + 1 }, (_, i) => ({ id: from - i }));

/** A server with this many rows, the newest of the highest number. */
function server(count: number) {
  return vi.fn(async (before: number | undefined) => {
    const first = before === undefined ? count : before - 1;
    return first < 1 ? [] : rows(first, Math.max(1, first - PAGE + 1));
  });
}

describe("lists that come in pages", () => {
  it.each([
    [0, 1],
    [1, 1],
    [PAGE - 1, 1],
    [PAGE, 2],
    [PAGE + 1, 2],
    [3 * PAGE - 1, 3],
  ])(
    "brings all of %i rows once, in order, in %i requests",
    async (count: number, requests: number) => {
      const page = server(count);
      const all = await everyPage(page);
      expect(all).toEqual(count ? rows(count, 1) : []);
      expect(page).toHaveBeenCalledTimes(requests);
    },
  );

  it("asks for the next page by the last row of the one before", async () => {
    const page = server(PAGE + 20);
    await everyPage(page);
    expect(page.mock.calls).toEqual([[undefined], [21]]);
  });

  it("fails as its page fails, with nothing half there", async () => {
    const page = vi
      .fn()
      .mockResolvedValueOnce(rows(200, 101))
      .mockRejectedValueOnce(new Error("away"));
    await expect(everyPage(page)).rejects.toThrow("away");
  });
});
