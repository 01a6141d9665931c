// Tiles, kept while there is room; several canvases share them: pictures as shown, and full-depth
// steps.

const AT_ONCE = 8;
const AHEAD_AT_ONCE = 2;
const MOST_AHEAD = 48;
const PAUSES = [0.5, 1, 1.5, 2, 2.5, 3, 4, 6, 10, 15]; // seconds before a tile is asked for again

interface Entry<T> {
  found?: T;
  waiting: Set<() => void>;
  tries: number;
  failed: boolean;
}

/**
 * Things by their address: asked for once, eight at a time, the newest wish first; what may be
 * wanted soon, a few at a time when nothing else is asked for.
 */
class Store<T> {
  private readonly entries = new Map<string, Entry<T>>();
  private readonly line: string[] = [];
  private readonly soon = new Set<string>();
  private running = 0;

  constructor(
    private readonly most: number,
    private readonly read: (answer: Response) => Promise<T>,
    private readonly drop: (found: T) => void,
  ) {}

  /** It, if it is there; if not, it is asked for and `arrived` is called once it came. */
  get(address: string, arrived: () => void): T | undefined {
    let entry = this.entries.get(address);
    if (entry?.found) {
      // Seen lately: to the end of the order of leaving.
      this.entries.delete(address);
      this.entries.set(address, entry);
      return entry.found;
    }
    if (!entry || this.soon.delete(address)) {
      entry ??= this.enter(address);
      this.line.push(address);
      this.pump();
    }
    if (!entry.failed) entry.waiting.add(arrived);
    return undefined;
  }

  /** It may be wanted soon; of too many such wishes the oldest are forgotten. */
  ahead(address: string): void {
    if (this.entries.has(address)) return;
    this.enter(address);
    this.soon.add(address);
    const [oldest] = this.soon;
    if (this.soon.size > MOST_AHEAD && oldest !== undefined) {
      this.soon.delete(oldest);
      this.entries.delete(oldest);
    }
    this.pump();
  }

  private enter(address: string): Entry<T> {
    const entry = { waiting: new Set<() => void>(), tries: 0, failed: false };
    this.entries.set(address, entry);
    return entry;
  }

  /** The newest wish first: it is what is on screen now. */
  private next(): string | undefined {
    if (this.line.length) return this.line.pop();
    if (this.running >= AHEAD_AT_ONCE) return undefined;
    const address = [...this.soon].pop();
    if (address !== undefined) this.soon.delete(address);
    return address;
  }

  private pump(): void {
    while (this.running < AT_ONCE) {
      const address = this.next();
      if (address === undefined) return;
      const entry = this.entries.get(address);
      if (!entry) continue;
      this.running++;
      this.load(address, entry).finally(() => {
        this.running--;
        this.pump();
      });
    }
  }

  private async load(address: string, entry: Entry<T>): Promise<void> {
    try {
      const answer = await fetch(address);
      // What is not there, or can not be, will not be; anything else may only be away for a
      // moment, or being made.
      if (answer.status >= 400 && answer.status < 500 && answer.status !== 429) entry.failed = true;
      if (!answer.ok) throw new Error(String(answer.status));
      entry.found = await this.read(answer);
    } catch {
      if (!entry.failed) {
        const pause = PAUSES[Math.min(entry.tries++, PAUSES.length - 1)] ?? 15;
        setTimeout(() => {
          if (this.entries.get(address) !== entry) return;
          this.line.push(address);
          this.pump();
        }, 1000 * pause);
        return;
      }
      setTimeout(() => this.entries.delete(address), 3000);
    }
    const waiting = [...entry.waiting];
    entry.waiting.clear();
    this.forgetOldest();
    for (const arrived of waiting) arrived();
  }

  private forgetOldest(): void {
    for (const [address, entry] of this.entries) {
      if (this.entries.size <= this.most) return;
      if (!entry.found) continue;
      this.drop(entry.found);
      this.entries.delete(address);
    }
  }
}

const AS_IT_IS = { colorSpaceConversion: "none", premultiplyAlpha: "none" } as const;
const bitmaps = new Store<ImageBitmap>(
  240, // of 1 MB each
  async (answer) => createImageBitmap(await answer.blob(), AS_IT_IS),
  (bitmap) => bitmap.close(),
);
const depths = new Store<Uint16Array>(
  80, // of 1.5 MB each
  async (answer) => new Uint16Array(await answer.arrayBuffer()),
  () => undefined,
);

/** A tile of a display copy if it is there; if not, `arrived` is called once it came. */
export const tile = (address: string, arrived: () => void): ImageBitmap | undefined =>
  bitmaps.get(address, arrived);

/** A tile's full-depth steps if they are there; if not, `arrived` is called once they came. */
export const steps = (address: string, arrived: () => void): Uint16Array | undefined =>
  depths.get(address, arrived);

/** A tile of a display copy that may be wanted soon. */
export const tileAhead = (address: string): void => bitmaps.ahead(address);

/** Full-depth steps that may be wanted soon. */
export const stepsAhead = (address: string): void => depths.ahead(address);
