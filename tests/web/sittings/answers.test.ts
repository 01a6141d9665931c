import { Problem } from "@/api/client";
import { type Answer, Outbox } from "@/sittings/answers";

const answer = (place: number, said = "left"): Answer => ({
  place,
  answer: { said },
  kinds: [],
  took_ms: 5,
});

class Memory {
  readonly kept = new Map<string, string>();
  getItem = (name: string): string | null => this.kept.get(name) ?? null;
  setItem = (name: string, value: string): void =>
    void this.kept.set(name, value);
  removeItem = (name: string): void => void this.kept.delete(name);
}

function outbox(send: (a: Answer) => Promise<unknown>, store = new Memory()) {
  const told: [number, string][] = [];
  const box = new Outbox(
    "7-x",
    send,
    (n, problem) => told.push([n, problem]),
    store,
    0,
  );
  return { box, told, store };
}

const settled = async (box: Outbox): Promise<void> => {
  await vi.waitFor(() => expect(box.waiting).toEqual([]));
};

test("answers are sent in their order, each once", async () => {
  const sent: number[] = [];
  const { box, told } = outbox(async (a) => sent.push(a.place));
  box.put(answer(0));
  box.put(answer(1));
  await settled(box);
  await vi.waitFor(() => expect(told.at(-1)).toEqual([0, ""]));
  expect(sent).toEqual([0, 1]);
});

test("a lost connection keeps them, and a page that is opened again sends them", async () => {
  const store = new Memory();
  const never = outbox(() => new Promise(() => undefined), store);
  never.box.put(answer(3));
  never.box.put(answer(4));
  expect(never.box.waiting.map((a) => a.place)).toEqual([3, 4]);
  const sent: number[] = [];
  const again = outbox(async (a) => sent.push(a.place), store);
  await again.box.flush();
  expect(sent).toEqual([3, 4]);
  expect(store.kept.size).toBe(0);
});

test("what fails for a while is tried until it goes through", async () => {
  let tries = 0;
  const { box, told } = outbox(async () => {
    tries += 1;
    if (tries < 3) throw new Problem(tries === 1 ? 0 : 503, "away");
  });
  box.put(answer(0));
  await settled(box);
  expect(tries).toBe(3);
  expect(told).toContainEqual([1, "away"]);
});

test("what is refused for good is dropped with its reason", async () => {
  const { box, told } = outbox(async () => {
    throw new Problem(409, "This sitting is over. Thank you.");
  });
  box.put(answer(0));
  await settled(box);
  await vi.waitFor(() =>
    expect(told.at(-1)).toEqual([0, "This sitting is over. Thank you."]),
  );
});

test("another answer to the same place takes the earlier one's, also while that is sent", async () => {
  const sent: unknown[] = [];
  let release = (): void => undefined;
  const { box } = outbox(async (a) => {
    sent.push(a.answer.said);
    if (sent.length === 1) await new Promise<void>((r) => (release = r));
  });
  box.put(answer(0, "left"));
  await vi.waitFor(() => expect(sent).toEqual(["left"]));
  box.put(answer(0, "right"));
  release();
  await settled(box);
  expect(sent).toEqual(["left", "right"]);
});

test("what somebody else wrote there is no answer", () => {
  const store = new Memory();
  store.setItem("sitting-7-x", "{not json");
  expect(outbox(async () => undefined, store).box.waiting).toEqual([]);
});
