// How many pixels of a PNG an inch has: its pHYs chunk (ISO/IEC 15948, 11.3.5.3).

const INCH = 0.0254; // m
const AFTER_HEADER = 33; // signature, and IHDR with its length and sum

const table = Uint32Array.from({ length: 256 }, (_, n) => {
  let c = n;
  for (let k = 0; k < 8; k++) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1;
  return c;
});

/** ISO/IEC 15948, annex D. */
export function crc32(bytes: Uint8Array): number {
  let c = 0xffffffff;
  for (const byte of bytes) c = (table[(c ^ byte) & 255] ?? 0) ^ (c >>> 8);
  return (c ^ 0xffffffff) >>> 0;
}

/** The same PNG, telling its pixels an inch. */
export async function withPpi(png: Blob, ppi: number): Promise<Blob> {
  const chunk = new DataView(new ArrayBuffer(21));
  chunk.setUint32(0, 9);
  [..."pHYs"].forEach((letter, i) => chunk.setUint8(4 + i, letter.charCodeAt(0)));
  const perMetre = Math.round(ppi / INCH);
  chunk.setUint32(8, perMetre);
  chunk.setUint32(12, perMetre);
  chunk.setUint8(16, 1);
  chunk.setUint32(17, crc32(new Uint8Array(chunk.buffer, 4, 13)));
  const bytes = await png.arrayBuffer();
  return new Blob([bytes.slice(0, AFTER_HEADER), chunk.buffer, bytes.slice(AFTER_HEADER)], {
    type: "image/png",
  });
}
