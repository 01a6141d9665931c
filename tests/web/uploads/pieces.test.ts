import type { Problem } from "@/api/client";
import type { Kept } from "@/uploads/keep";
import { sendRest } from "@/uploads/pieces";

const PIECE = 8 * 1024 * 1024;

/** A server that keeps what it is sent, as one XMLHttpRequest after the other. */
class Line {
  static received = 0;
  static sent: [string, number][] = [];
  static answer: (
    from: number,
    size: number,
  ) => { status: number; response: unknown } | "broken" | "late";
  status = 0;
  response: unknown;
  responseType = "";
  timeout = 0;
  upload: { onprogress?: (event: { loaded: number }) => void } = {};
  onload?: () => void;
  onerror?: () => void;
  ontimeout?: () => void;
  private url = "";
  open(_: string, url: string) {
    this.url = url;
  }
  setRequestHeader() {}
  send(piece: Blob) {
    const from = Number(this.url.split("/").at(-1));
    Line.sent.push([this.url, piece.size]);
    this.upload.onprogress?.({ loaded: piece.size / 2 });
    const told = Line.answer(from, piece.size);
    if (told === "broken") return this.onerror?.();
    if (told === "late") return this.ontimeout?.();
    this.status = told.status;
    this.response = told.response;
    this.onload?.();
  }
}

const item = (size: number) =>
  ({
    id: "abc",
    file: { size, slice: (a: number, b: number) => ({ size: b - a }) },
  }) as unknown as Kept;
const open = (received: number) => ({
  status: 200,
  response: { state: "open", received },
});

beforeEach(() => {
  Line.sent = [];
  Line.answer = (from, size) => open(from + size);
  vi.stubGlobal("XMLHttpRequest", Line);
  vi.stubGlobal("document", { cookie: "" });
});

describe("a file in pieces", () => {
  it("is sent from where it broke off to its end, each piece at its place", async () => {
    const heard: number[] = [];
    await sendRest(item(2.5 * PIECE), PIECE, (n) => heard.push(n));
    expect(Line.sent).toEqual([
      [`/api/uploads/abc/from/${PIECE}`, PIECE],
      [`/api/uploads/abc/from/${2 * PIECE}`, PIECE / 2],
    ]);
    expect(heard).toEqual([1.5 * PIECE, 2 * PIECE, 2.25 * PIECE, 2.5 * PIECE]);
  });
  it("is not sent again when all of it has arrived", async () => {
    await sendRest(item(PIECE), PIECE, () => undefined);
    expect(Line.sent).toEqual([]);
  });
  it("goes on from what the server says it has, more or less than was sent", async () => {
    Line.answer = (from, size) => open(from === 0 ? PIECE / 4 : from + size);
    await sendRest(item(2 * PIECE), 0, () => undefined);
    expect(Line.sent.map(([url]) => Number(url.split("/").at(-1)))).toEqual([
      0,
      PIECE / 4,
      1.25 * PIECE,
    ]);
  });
  it("ends where the server has taken it already", async () => {
    Line.answer = () => ({
      status: 200,
      response: { state: "done", received: 2 * PIECE },
    });
    await sendRest(item(4 * PIECE), 0, () => undefined);
    expect(Line.sent).toHaveLength(1);
  });
  it.each(["broken", "late"] as const)(
    "says that the way is %s by a problem of status 0",
    async (how) => {
      Line.answer = () => how;
      await expect(
        sendRest(item(PIECE), 0, () => undefined),
      ).rejects.toMatchObject({ status: 0 } as Partial<Problem>);
    },
  );
  it("passes the server's own words on", async () => {
    Line.answer = () => ({
      status: 507,
      response: { detail: "The disk of this bench is full." },
    });
    const sent = sendRest(item(PIECE), 0, () => undefined);
    await expect(sent).rejects.toMatchObject({
      status: 507,
      message: "The disk of this bench is full.",
    });
  });
});
