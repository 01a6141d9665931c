// Decoded tiles, kept while there is room; several canvases share them.

const MOST = 240; // tiles of 1 MB each
const AT_ONCE = 8;
const PAUSES = [1, 2, 4, 8, 15]; // seconds before a tile is asked for again

interface Entry {
  bitmap?: ImageBitmap;
  waiting: Set<() => void>;
  tries: number;
  failed: boolean;
}

const entries = new Map<string, Entry>();
const line: string[] = [];
let running = 0;

/** A tile if it is there; if not, it is asked for and `arrived` is called once it came. */
export function tile(address: string, arrived: () => void): ImageBitmap | undefined {
  let entry = entries.get(address);
  if (entry?.bitmap) {
    // Seen lately: to the end of the order of leaving.
    entries.delete(address);
    entries.set(address, entry);
    return entry.bitmap;
  }
  if (!entry) {
    entry = { waiting: new Set(), tries: 0, failed: false };
    entries.set(address, entry);
    line.push(address);
    pump();
  }
  if (!entry.failed) entry.waiting.add(arrived);
  return undefined;
}

function pump(): void {
  while (running < AT_ONCE && line.length) {
    // The newest wish first: it is what is on screen now.
    const address = line.pop();
    const entry = address ? entries.get(address) : undefined;
    if (!address || !entry) continue;
    running++;
    load(address, entry).finally(() => {
      running--;
      pump();
    });
  }
}

async function load(address: string, entry: Entry): Promise<void> {
  try {
    const answer = await fetch(address);
    // What is not there will not be; anything else may only be away for a moment, or being made
    // again.
    if (answer.status === 404) entry.failed = true;
    if (!answer.ok) throw new Error(String(answer.status));
    const options = { colorSpaceConversion: "none", premultiplyAlpha: "none" } as const;
    entry.bitmap = await createImageBitmap(await answer.blob(), options);
  } catch {
    if (!entry.failed) {
      const pause = PAUSES[Math.min(entry.tries++, PAUSES.length - 1)] ?? 15;
      setTimeout(() => {
        if (entries.get(address) !== entry) return;
        line.push(address);
        pump();
      }, 1000 * pause);
      return;
    }
    setTimeout(() => entries.delete(address), 3000);
  }
  const waiting = [...entry.waiting];
  entry.waiting.clear();
  forgetOldest();
  for (const arrived of waiting) arrived();
}

function forgetOldest(): void {
  for (const [address, entry] of entries) {
    if (entries.size <= MOST) return;
    if (!entry.bitmap) continue;
    entry.bitmap.close();
    entries.delete(address);
  }
}
