// @vitest-environment node
import { effectScope, nextTick, ref } from "vue";

const answers: ((response: Response | undefined) => void)[] = [];
const bodies: unknown[] = [];
vi.mock("@/api/patient", async (original) => ({
  ...(await original<object>()),
  patiently: async (request: Request) => {
    bodies.push(await request.json());
    const answer = await new Promise<Response | undefined>((done) =>
      answers.push(done),
    );
    if (!answer) throw new TypeError("no network");
    return answer;
  },
}));
vi.stubGlobal("document", { cookie: "csrftoken=abc" });
vi.stubGlobal("window", globalThis);
const gone: string[] = [];
let made = 0;
URL.createObjectURL = () => `blob:${++made}`;
URL.revokeObjectURL = (url) => void gone.push(url);
const { useServerPicture } = await import("@/shared/lib/useServerPicture");

const picture = () => new Response(new Blob(["x"]));
const settled = async () => {
  for (let i = 0; i < 20; i++) await Promise.resolve();
};

function opened(first?: number) {
  const wish = ref<number | undefined>(first);
  const scope = effectScope();
  const told = scope.run(() =>
    useServerPicture(() =>
      wish.value === undefined
        ? undefined
        : { url: "http://bench/preview", body: { n: wish.value } },
    ),
  )!;
  const wants = async (n: number | undefined, wait = 300) => {
    wish.value = n;
    await nextTick();
    await vi.advanceTimersByTimeAsync(wait);
  };
  return { ...told, wants, scope };
}

describe("a picture that the server makes", () => {
  beforeEach(() => {
    vi.useFakeTimers();
    answers.length = bodies.length = gone.length = made = 0;
  });
  afterEach(() => vi.useRealTimers());

  it("is asked for once a change has rested", async () => {
    const { wants, shown } = opened(1);
    await wants(2, 100);
    await wants(3, 100);
    expect(bodies).toEqual([]);
    await wants(4);
    expect(bodies).toEqual([{ n: 4 }]);
    answers[0]!(picture());
    await settled();
    expect(shown.value).toBe("blob:1");
  });

  it("is the newest that was asked for, in whatever order answers come", async () => {
    const { wants, shown } = opened(1);
    await wants(1);
    await wants(2);
    answers[1]!(picture());
    await settled();
    answers[0]!(picture());
    await settled();
    expect([shown.value, made]).toEqual(["blob:1", 1]);
  });

  it("gives the one before it back to the browser", async () => {
    const { wants, scope } = opened(1);
    await wants(1);
    answers[0]!(picture());
    await settled();
    await wants(2);
    answers[1]!(picture());
    await settled();
    expect(gone).toEqual(["blob:1"]);
    scope.stop();
    expect(gone).toEqual(["blob:1", "blob:2"]);
  });

  it("makes room for what is wrong, in the server's words", async () => {
    const { wants, shown, problem } = opened(1);
    await wants(1);
    answers[0]!(picture());
    await settled();
    await wants(2);
    answers[1]!(
      Response.json(
        { detail: "The radius is from 0.1 to 8 px." },
        { status: 400 },
      ),
    );
    await settled();
    expect([shown.value, problem.value]).toEqual([
      "",
      "The radius is from 0.1 to 8 px.",
    ]);
  });

  it("stays, and is called out of date, while there is no answer", async () => {
    const { wants, shown, problem } = opened(1);
    await wants(1);
    answers[0]!(picture());
    await settled();
    await wants(2);
    answers[1]!(undefined);
    await settled();
    expect(shown.value).toBe("blob:1");
    expect(problem.value).toContain("out of date");
  });

  it("goes when there is nothing to show any more", async () => {
    const { wants, shown } = opened(1);
    await wants(1);
    answers[0]!(picture());
    await settled();
    await wants(undefined);
    await settled();
    expect([shown.value, bodies.length]).toEqual(["", 1]);
  });
});
