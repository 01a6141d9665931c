import { effectScope, ref } from "vue";

import type { Patch } from "@/api/types";
import { usePatchEdits } from "@/studies/compare/patches/usePatchEdits";

const patch = (id: number, x: number, version: string): Patch =>
  ({ id, name: "Sky", role: "flat", x, y: 0, w: 50, h: 40, version }) as Patch;

interface Sent {
  id: number;
  version: string;
  x: number;
  name: string;
}

function opened(answer: (sent: Sent) => Patch | undefined) {
  const kept = ref([patch(1, 20, "v1"), patch(2, 300, "w1")]);
  const sent: Sent[] = [];
  const scope = effectScope();
  const edits = scope.run(() =>
    usePatchEdits(kept, (id, version, body) => {
      const told = { id, version, x: body.x, name: body.name };
      sent.push(told);
      return Promise.resolve(answer(told));
    }),
  )!;
  const settle = () => vi.advanceTimersByTimeAsync(400);
  return { kept, sent, scope, settle, ...edits };
}

const next = (sent: Sent): Patch => ({
  ...patch(sent.id, sent.x, `${sent.version}+`),
  name: sent.name,
});

describe("patches that are edited", () => {
  beforeEach(() => vi.useFakeTimers());
  afterEach(() => vi.useRealTimers());

  it("show a change at once and send it a moment later", async () => {
    const { kept, sent, patches, change, settle } = opened(next);
    change(kept.value[0]!, { x: 30 });
    expect(patches.value[0]!.x).toBe(30);
    expect(sent).toEqual([]);
    await settle();
    expect(sent).toEqual([{ id: 1, version: "v1", x: 30, name: "Sky" }]);
  });

  it("lose no move of keys that are pressed faster than the server answers", async () => {
    const { sent, patches, change, settle } = opened(next);
    for (let i = 0; i < 25; i++)
      change(patches.value[0]!, { x: patches.value[0]!.x + 1 });
    expect(patches.value[0]!.x).toBe(45);
    await settle();
    expect(sent.map((s) => s.x)).toEqual([45]);
  });

  it("send the version that one's own last change led to, before it is read again", async () => {
    const { patches, sent, change, settle } = opened(next);
    change(patches.value[0]!, { x: 30 });
    await settle();
    change(patches.value[0]!, { name: "Upper sky" });
    await settle();
    expect(sent.map((s) => s.version)).toEqual(["v1", "v1+"]);
  });

  it("go back to what is kept when a change is refused, and tell the fields", async () => {
    const { patches, refused, change, settle } = opened(() => undefined);
    change(patches.value[0]!, { x: 999 });
    await settle();
    expect(patches.value[0]!.x).toBe(20);
    expect(refused.value).toBe(1);
  });

  it("keep each patch's changes apart", async () => {
    const { patches, sent, change, settle } = opened(next);
    change(patches.value[0]!, { x: 1 });
    change(patches.value[1]!, { name: "Roof" });
    await settle();
    expect(sent.map((s) => [s.id, s.x, s.name])).toEqual([
      [1, 1, "Sky"],
      [2, 300, "Roof"],
    ]);
  });

  it("take several changes of one patch together", async () => {
    const { patches, sent, change, settle } = opened(next);
    change(patches.value[0]!, { x: 5 });
    change(patches.value[0]!, { name: "Left" });
    await settle();
    expect(sent).toEqual([{ id: 1, version: "v1", x: 5, name: "Left" }]);
  });

  it("are sent when the page is left", async () => {
    const { patches, sent, change, scope } = opened(next);
    change(patches.value[0]!, { x: 70 });
    scope.stop();
    await vi.advanceTimersByTimeAsync(0);
    expect(sent.map((s) => s.x)).toEqual([70]);
  });

  it("forget a patch that went meanwhile", async () => {
    const { kept, patches, sent, change, settle } = opened(next);
    change(patches.value[0]!, { x: 70 });
    kept.value = [kept.value[1]!];
    await settle();
    expect(sent).toEqual([]);
  });
});
