import { PAUSES_S, patientWithPictures } from "@/app/pictures";

/** A picture in a page, which notes what it is told to show. */
class Shown {
  isConnected = true;
  asked: string[] = [];
  constructor(private address: string) {}
  get src(): string {
    return this.address;
  }
  set src(to: string) {
    this.asked.push(to);
    this.address = to;
  }
}
const HERE = "http://localhost:8400/api/outputs";

describe("a picture that did not come", () => {
  beforeEach(() => vi.useFakeTimers());
  afterEach(() => vi.useRealTimers());

  test("is asked for again, later each time, and no longer after a while", () => {
    const picture = new Shown(`${HERE}/1/crop.png`);
    const failed = patientWithPictures();
    for (const [i, pause] of PAUSES_S.entries()) {
      failed(picture);
      vi.advanceTimersByTime(1000 * pause - 1);
      expect(picture.asked).toHaveLength(i);
      vi.advanceTimersByTime(1);
      expect(picture.asked).toHaveLength(i + 1);
    }
    failed(picture);
    vi.advanceTimersByTime(600_000);
    expect(picture.asked).toHaveLength(PAUSES_S.length);
    // Another one starts anew.
    picture.src = `${HERE}/2/crop.png`;
    failed(picture);
    vi.advanceTimersByTime(1000);
    expect(picture.asked.slice(PAUSES_S.length)).toEqual(
      Array(2).fill(`${HERE}/2/crop.png`),
    );
  });

  test.each([
    [
      "another is wanted by then",
      (p: Shown) => (p.src = `${HERE}/2/crop.png`),
      1,
    ],
    ["it is gone by then", (p: Shown) => (p.isConnected = false), 0],
  ])("is left alone where %s", (_, change, asked) => {
    const picture = new Shown(`${HERE}/1/crop.png`);
    patientWithPictures()(picture);
    change(picture);
    vi.advanceTimersByTime(60_000);
    expect(picture.asked).toHaveLength(asked);
  });

  test.each([
    "data:image/png;base64,AAAA",
    "blob:http://localhost/1",
    "http://localhost/logo.png",
  ])("is left alone where the server has no part in it: %s", (address) => {
    const picture = new Shown(address);
    patientWithPictures()(picture);
    vi.advanceTimersByTime(60_000);
    expect(picture.asked).toEqual([]);
  });
});
