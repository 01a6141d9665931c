import type { Problem } from "@/api/client";
import type { Kept } from "@/uploads/keep";

interface Options {
  uploadUrl: string;
  chunkSize: number;
  retryDelays: unknown;
  storeFingerprintForResuming: boolean;
  headers: Record<string, string>;
  onProgress: (sent: number, all: number) => void;
  onSuccess: () => void;
  onError: (error: Error) => void;
}
class Detailed extends Error {
  originalResponse: unknown;
  constructor(status?: number, body = "") {
    super("tus: it failed");
    this.originalResponse = status
      ? { getStatus: () => status, getBody: () => body }
      : null;
  }
}
const started: [unknown, Options][] = [];
const aborted = vi.fn();
let then: (options: Options) => void;
vi.mock("tus-js-client", () => ({
  DetailedError: Detailed,
  Upload: class {
    constructor(
      private readonly file: unknown,
      private readonly options: Options,
    ) {}
    abort() {
      aborted();
      return Promise.resolve();
    }
    start() {
      started.push([this.file, this.options]);
      then(this.options);
    }
  },
}));
const { sendRest } = await import("@/uploads/pieces");

const file = { size: 20, name: "mill.tif" };
const item = { id: "abc", file } as unknown as Kept;

beforeEach(() => {
  started.length = 0;
  vi.stubGlobal("document", { cookie: "csrftoken=pass" });
  then = (options) => options.onSuccess();
});

describe("a file in pieces", () => {
  it("goes to its own address, with the page's token, and is kept and tried by nobody else", async () => {
    await sendRest(item, () => undefined);
    const [sent, options] = started[0]!;
    expect(sent).toBe(file);
    expect(options).toMatchObject({
      uploadUrl: "/api/uploads/abc/bytes",
      headers: { "X-CSRFToken": "pass" },
      retryDelays: null,
      storeFingerprintForResuming: false,
    });
    expect(options.chunkSize).toBeGreaterThan(1e6);
  });

  it("tells how far it is, and ends once it is there", async () => {
    const heard: number[] = [];
    then = (options) => {
      options.onProgress(5, 20);
      options.onProgress(20, 20);
      options.onSuccess();
    };
    await sendRest(item, (n) => heard.push(n));
    expect(heard).toEqual([5, 20]);
  });

  it("is given up where nothing moves for two minutes, and not before", async () => {
    vi.useFakeTimers();
    let options: Options | undefined;
    then = (o) => (options = o);
    const sent = sendRest(item, () => undefined).catch(
      (error: unknown) => error,
    );
    vi.advanceTimersByTime(119_000);
    options?.onProgress(5, 20);
    vi.advanceTimersByTime(119_000);
    expect(aborted).not.toHaveBeenCalled();
    vi.advanceTimersByTime(1_000);
    expect(await sent).toMatchObject({
      status: 0,
      message: "The connection broke off.",
    });
    expect(aborted).toHaveBeenCalledOnce();
    vi.useRealTimers();
  });

  it("is not given up after it has ended", async () => {
    vi.useFakeTimers();
    aborted.mockClear();
    await sendRest(item, () => undefined);
    vi.advanceTimersByTime(600_000);
    expect(aborted).not.toHaveBeenCalled();
    vi.useRealTimers();
  });

  it.each([
    ["no answer", new Detailed(), 0, "The connection broke off."],
    [
      "an error of another kind",
      new Error("gone"),
      0,
      "The connection broke off.",
    ],
    [
      "words of the server",
      new Detailed(507, JSON.stringify({ detail: "Full." })),
      507,
      "Full.",
    ],
    [
      "a page that is no JSON",
      new Detailed(502, "<html>"),
      502,
      expect.stringContaining("log"),
    ],
  ])("fails on %s", async (_, error, status, message) => {
    then = (options) => options.onError(error);
    await expect(sendRest(item, () => undefined)).rejects.toMatchObject({
      status,
      message,
    } as Partial<Problem>);
  });
});
