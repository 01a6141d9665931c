import { ref } from "vue";

const sending = ref<{ id: string; state: string; delivery: object }[]>([]);
const send = vi.fn();
vi.mock("@/uploads/store", () => ({ sending, send, drop: vi.fn() }));
const { useSending } = await import("@/uploads/useSending");

type Delivery = Parameters<typeof send>[0] & Parameters<typeof useSending>[0];
const output = (contender: number, frame: number) =>
  ({
    kind: "output",
    study: null,
    frame,
    contender,
    folder: null,
  }) as unknown as Delivery;
const item = (id: string, delivery: object, state = "sending") => ({
  id,
  state,
  delivery,
});

describe("files on their way to one place", () => {
  beforeEach(() => {
    sending.value = [
      item("a", output(1, 2) as object),
      item("b", output(2, 1) as object),
      item("c", output(1, 2) as object, "refused"),
      item("d", output(1, 2) as object, "done"),
      item("e", { ...(output(1, 2) as object), kind: "truth" }),
    ];
  });
  const ids = (delivery: Delivery) =>
    useSending(delivery).sent.value.map((i) => i.id);

  it("are those for just that cell, until they have arrived", () => {
    expect(ids(output(1, 2))).toEqual(["a", "c"]);
    expect(ids(output(2, 1))).toEqual(["b"]);
    expect(ids(output(2, 2))).toEqual([]);
  });

  it("follow a component that is about another place now", () => {
    const place = ref(output(1, 2)) as unknown as { value: Delivery };
    const { sent, send: go } = useSending(place as never);
    expect(sent.value).toHaveLength(2);
    place.value = output(2, 1);
    expect(sent.value.map((i) => i.id)).toEqual(["b"]);
    const files = [new File(["x"], "out.tif")];
    go(files);
    expect(send).toHaveBeenCalledExactlyOnceWith(output(2, 1), files);
  });
});
