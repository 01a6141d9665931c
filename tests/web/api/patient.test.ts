// @vitest-environment node
import { patiently } from "@/api/patient";

const sent: string[] = [];
const answers: [number, string?][] = [];
vi.stubGlobal("fetch", async (request: Request) => {
  sent.push(`${request.method} ${await request.text()}`);
  const [status, after] = answers.shift() ?? [200];
  return new Response(null, {
    status,
    headers: after === undefined ? {} : { "Retry-After": after },
  });
});

function asked(signal?: AbortSignal): Promise<Response> {
  const url = "http://bench/api/patches/1";
  return patiently(new Request(url, { method: "PUT", body: "x=1", signal }));
}

describe("a call that is turned away", () => {
  beforeEach(() => {
    vi.useFakeTimers();
    sent.length = answers.length = 0;
  });
  afterEach(() => vi.useRealTimers());

  it.each<[string, [number, string?][], number, number]>([
    ["done at once", [[200]], 200, 1],
    ["refused", [[409]], 409, 1],
    ["broken", [[500]], 500, 1],
    ["away: others see to that", [[503, "1"]], 503, 1],
    ["told to come again", [[429, "1"], [429, "1"], [204]], 204, 3],
    ["told no time", [[429], [200]], 200, 2],
    ["told to come in a minute", [[429, "60"]], 429, 1],
    ["told no number", [[429, "soon"]], 429, 1],
    ["turned away for ever", Array(20).fill([429, "1"]), 429, 8],
  ])("%s", async (_, given, status, times) => {
    answers.push(...given);
    const answer = asked();
    await vi.advanceTimersByTimeAsync(60_000);
    expect((await answer).status).toBe(status);
    // Each time whole.
    expect(sent).toEqual(Array(times).fill("PUT x=1"));
  });

  it("is not sent again once nobody waits for it", async () => {
    answers.push([429, "1"]);
    const left = new AbortController();
    const answer = asked(left.signal);
    left.abort();
    await vi.advanceTimersByTimeAsync(60_000);
    expect((await answer).status).toBe(429);
    expect(sent).toHaveLength(1);
  });

  it("fails where there is no answer", async () => {
    vi.stubGlobal("fetch", () => Promise.reject(new TypeError("no network")));
    await expect(asked()).rejects.toThrow("no network");
  });
});
