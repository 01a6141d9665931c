import type { tile as Tile, tileAhead as TileAhead } from "@/viewer/tiles";

let tile: typeof Tile;
let tileAhead: typeof TileAhead;
let asked: string[];
let waiting: Map<string, (answer: unknown) => void>;
const settle = async () => {
  for (let i = 0; i < 12; i++) await Promise.resolve();
};

beforeEach(async () => {
  vi.useFakeTimers();
  vi.resetModules();
  asked = [];
  waiting = new Map();
  vi.stubGlobal("fetch", (address: string) => {
    asked.push(address);
    return new Promise((resolve) => waiting.set(address, resolve));
  });
  vi.stubGlobal("createImageBitmap", (blob: string) =>
    Promise.resolve({ of: blob, close: vi.fn() }),
  );
  ({ tile, tileAhead } = await import("@/viewer/tiles"));
});
afterEach(() => vi.useRealTimers());

async function answer(address: string, status = 200): Promise<void> {
  waiting.get(address)?.({
    ok: status < 300,
    status,
    blob: () => Promise.resolve(address),
  });
  await settle();
}

describe("tiles", () => {
  it("are asked for once, whoever waits, and everybody hears of their coming", async () => {
    const [one, two] = [vi.fn(), vi.fn()];
    expect(tile("a", one)).toBeUndefined();
    expect(tile("a", two)).toBeUndefined();
    await answer("a");
    expect([asked, one.mock.calls.length, two.mock.calls.length]).toEqual([
      ["a"],
      1,
      1,
    ]);
    expect(tile("a", one)).toMatchObject({ of: "a" });
    expect(one).toHaveBeenCalledTimes(1);
  });
  it("are asked for eight at a time, the newest wish first", async () => {
    for (let i = 0; i < 12; i++) tile(String(i), () => undefined);
    expect(asked).toEqual(["0", "1", "2", "3", "4", "5", "6", "7"]);
    await answer("3");
    await answer("5");
    expect(asked.slice(8)).toEqual(["11", "10"]);
  });
  it("that may be wanted soon wait for what is wanted now, and two come at once", async () => {
    for (const address of ["x", "y", "z"]) tileAhead(address);
    expect(asked).toEqual(["x", "y"]);
    for (let i = 0; i < 7; i++) tile(String(i), () => undefined);
    expect(asked.slice(2)).toEqual(["0", "1", "2", "3", "4", "5"]);
    await answer("x");
    await answer("y");
    expect(asked.slice(8)).toEqual(["6"]);
    for (let i = 0; i < 7; i++) await answer(String(i));
    expect(asked.slice(9)).toEqual(["z"]);
    await answer("z");
    expect(tile("z", () => undefined)).toMatchObject({ of: "z" });
  });
  it("that may be wanted soon are asked for at once when they are", () => {
    for (const address of ["x", "y", "z"]) tileAhead(address);
    const arrived = vi.fn();
    tile("z", arrived);
    tileAhead("z");
    expect(asked).toEqual(["x", "y", "z"]);
    tile("x", arrived);
    expect(asked).toEqual(["x", "y", "z"]);
  });
  it("are not asked for ahead without end: the oldest wishes are forgotten", async () => {
    for (let i = 0; i < 60; i++) tileAhead(String(i));
    await answer("0");
    expect(asked).toEqual(["0", "1", "59"]);
    tile("2", () => undefined);
    expect(asked).toEqual(["0", "1", "59", "2"]);
  });
  it("that are being made again are asked for until they are there, at longer and longer intervals", async () => {
    const arrived = vi.fn();
    tile("a", arrived);
    for (const seconds of [0.5, 1, 1.5, 2, 2.5, 3, 4, 6, 10, 15, 15]) {
      const before = asked.length;
      await answer("a", 503);
      vi.advanceTimersByTime(1000 * seconds - 1);
      expect(asked).toHaveLength(before);
      vi.advanceTimersByTime(1);
      expect(asked).toHaveLength(before + 1);
      await settle();
    }
    await answer("a");
    expect(arrived).toHaveBeenCalledTimes(1);
  });
  it("that are not there are told as such at once, and may be asked for later", async () => {
    const arrived = vi.fn();
    tile("a", arrived);
    await answer("a", 404);
    expect(arrived).toHaveBeenCalledTimes(1);
    tile("a", arrived);
    expect(asked).toEqual(["a"]);
    vi.advanceTimersByTime(3000);
    tile("a", arrived);
    expect(asked).toEqual(["a", "a"]);
  });
  it("are let go of when there are too many, those seen longest ago first", async () => {
    for (let i = 0; i < 240; i++) {
      tile(String(i), () => undefined);
      await answer(String(i));
    }
    const first = tile("0", () => undefined);
    const second = tile("1", () => undefined) as unknown as {
      close: () => void;
    };
    tile("0", () => undefined);
    const third = tile("2", () => undefined) as unknown as {
      close: () => void;
    };
    tile("new", () => undefined);
    await answer("new");
    expect(
      first && (first as unknown as { close: () => void }).close,
    ).not.toHaveBeenCalled();
    expect(second.close).not.toHaveBeenCalled();
    expect(third.close).not.toHaveBeenCalled();
    expect(tile("3", () => undefined)).toBeUndefined();
  });
});
