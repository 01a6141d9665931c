import { Pictures } from "@/sittings/pictures";

beforeEach(() => {
  let made = 0;
  URL.createObjectURL = () => `blob:${++made}`;
  URL.revokeObjectURL = vi.fn();
});

test("a picture is fetched once, however often it is wanted", async () => {
  const fetched = vi.fn(async () => new Blob());
  const pictures = new Pictures(fetched);
  expect(await pictures.get("a")).toBe(await pictures.get("a"));
  expect(fetched).toHaveBeenCalledTimes(1);
});

test("what failed is asked for again", async () => {
  let tries = 0;
  const pictures = new Pictures(async () => {
    if (++tries === 1) throw new Error("404");
    return new Blob();
  });
  await expect(pictures.get("a")).rejects.toThrow("404");
  await expect(pictures.get("a")).resolves.toMatch("blob:");
});

test("what is no longer shown is let go, what is shown stays", async () => {
  const pictures = new Pictures(async () => new Blob());
  const [a, b] = await Promise.all([pictures.get("a"), pictures.get("b")]);
  pictures.keepOnly(["b"]);
  await vi.waitFor(() => expect(URL.revokeObjectURL).toHaveBeenCalledWith(a));
  expect(await pictures.get("b")).toBe(b);
  expect(URL.revokeObjectURL).not.toHaveBeenCalledWith(b);
});
