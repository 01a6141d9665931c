import { crc32, withPpi } from "@/shared/lib/png";

describe("a PNG's pixels an inch", () => {
  it("has the sums of the standard (CRC-32 of “123456789” is CBF43926)", () => {
    expect(crc32(new TextEncoder().encode("123456789"))).toBe(0xcbf43926);
    expect(crc32(new Uint8Array())).toBe(0);
  });
  it("stand after the header, and nothing else changes", async () => {
    const before = Uint8Array.from({ length: 60 }, (_, i) => i);
    const made = new Uint8Array(
      await (await withPpi(new Blob([before]), 300)).arrayBuffer(),
    );
    expect([...made.slice(0, 33)]).toEqual([...before.slice(0, 33)]);
    expect([...made.slice(54)]).toEqual([...before.slice(33)]);
    const chunk = new DataView(made.buffer, 33, 21);
    expect(chunk.getUint32(0)).toBe(9);
    expect(String.fromCharCode(...made.slice(37, 41))).toBe("pHYs");
    expect(chunk.getUint32(8)).toBe(11811);
    expect(chunk.getUint32(17)).toBe(crc32(made.slice(37, 50)));
  });
});
