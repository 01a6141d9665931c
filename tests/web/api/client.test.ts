// @vitest-environment node
const sent = vi.fn<(request: Request) => void>();
let answer: () => Response | Promise<Response>;
vi.stubGlobal("document", { cookie: "theme=dark; csrftoken=abc; other=1" });
// A page's addresses are relative to it.
const Plain = Request;
vi.stubGlobal(
  "Request",
  class extends Plain {
    constructor(input: RequestInfo, init?: RequestInit) {
      super(
        typeof input === "string" ? new URL(input, "http://bench/") : input,
        init,
      );
    }
  },
);
vi.stubGlobal("fetch", (request: Request) => {
  sent(request);
  return Promise.resolve(answer());
});
const {
  addressOf,
  api,
  ask,
  askTagged,
  csrf,
  deleteAt,
  detailOf,
  Problem,
  upload,
} = await import("@/api/client");

export {};

const json = (body: unknown, status = 200, headers = {}) =>
  Response.json(body, { status, headers });
const failing = async (work: Promise<unknown>) =>
  work.then(
    () => expect.fail("it succeeded"),
    (e: unknown) => e as InstanceType<typeof Problem>,
  );
const rename = () =>
  api.PATCH("/api/studies/{study_id}", {
    params: { path: { study_id: 3 } },
    body: { question: "Which?", factor: "tool" },
  });

describe("calls to the server", () => {
  beforeEach(() => {
    sent.mockClear();
    answer = () => json({ id: 3 });
  });

  it("carry the token with changes, and not with reading", async () => {
    expect(csrf()).toBe("abc");
    await rename();
    await api.GET("/api/studies");
    expect(
      sent.mock.calls.map(([r]) => [r.method, r.headers.get("X-CSRFToken")]),
    ).toEqual([
      ["PATCH", "abc"],
      ["GET", null],
    ]);
  });

  it("unwrap what was answered", async () => {
    expect(await ask(rename())).toEqual({ id: 3 });
    answer = () => json({ id: 3 }, 200, { ETag: '"v2"' });
    expect(await askTagged(rename())).toEqual({ data: { id: 3 }, tag: '"v2"' });
  });

  it("tell in the server's words what went wrong", async () => {
    answer = () => json({ detail: "State the question." }, 400);
    const problem = await failing(ask(rename()));
    expect(problem).toBeInstanceOf(Problem);
    expect([problem.status, problem.message]).toEqual([
      400,
      "State the question.",
    ]);
    expect(problem.now).toBeUndefined();
  });

  it("bring along how it is now where somebody else changed it", async () => {
    const current = { question: "Who?" };
    answer = () =>
      json({ detail: "Changed meanwhile.", current, tag: '"v3"' }, 412);
    expect((await failing(ask(rename()))).now).toEqual({
      current,
      tag: '"v3"',
    });
  });

  it("say so where there is no answer", async () => {
    answer = () => Promise.reject(new TypeError("failed to fetch"));
    for (const work of [ask(rename()), deleteAt("/api/patches/1")]) {
      const problem = await failing(work);
      expect(problem.status).toBe(0);
      expect(problem.message).toContain("does not answer");
    }
  });

  it("wait for their turn, changes too", async () => {
    vi.useFakeTimers();
    const turns = [429, 200];
    answer = () => json({ id: 3 }, turns.shift(), { "Retry-After": "1" });
    const done = ask(rename());
    await vi.advanceTimersByTimeAsync(1000);
    expect(await done).toEqual({ id: 3 });
    vi.useRealTimers();
    expect(await sent.mock.calls[1]![0].json()).toEqual({
      question: "Which?",
      factor: "tool",
    });
  });

  it("send a small file as a form", async () => {
    await upload("/api/frames/1/truth", new File(["x"], "truth.tif"));
    const [request] = sent.mock.calls[0]!;
    expect([request.method, request.headers.get("X-CSRFToken")]).toEqual([
      "POST",
      "abc",
    ]);
    expect(((await request.formData()).get("file") as File).name).toBe(
      "truth.tif",
    );
    answer = () => json({ detail: "No picture." }, 400);
    const problem = await failing(
      upload("/api/frames/1/truth", new File([], "a.txt")),
    );
    expect(problem.message).toBe("No picture.");
  });

  it("delete by an address, and take an answer that is none of ours", async () => {
    answer = () => new Response(null, { status: 204 });
    await deleteAt(
      addressOf("/api/studies/{study_id}/frames/{frame_id}", {
        study_id: 3,
        frame_id: 12,
      }),
    );
    const [request] = sent.mock.calls[0]!;
    expect([request.method, request.keepalive]).toEqual(["DELETE", true]);
    expect(new URL(request.url).pathname).toBe("/api/studies/3/frames/12");
    answer = () => new Response("<h1>Bad gateway</h1>", { status: 502 });
    const problem = await failing(deleteAt("/api/patches/1"));
    expect([problem.status, problem.message]).toEqual([502, detailOf(null)]);
  });
});

describe("the words of an answer that failed", () => {
  it.each([[null], [undefined], ["<html>"], [{}], [{ title: "x" }], [3]])(
    "%j has none: ours are told",
    (body) => expect(detailOf(body)).toContain("nothing was lost"),
  );
  it("are its detail", () => expect(detailOf({ detail: 5 })).toBe("5"));
});
