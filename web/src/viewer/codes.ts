// Lightness of display codes, for the read-out (CIE 15:2018 on sRGB, IEC 61966-2-1).
export function lightness([r, g, b]: readonly [number, number, number]): number {
  const linear = (code: number): number => {
    const v = code / 255;
    return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
  };
  const y = 0.2126 * linear(r) + 0.7152 * linear(g) + 0.0722 * linear(b);
  return y > (6 / 29) ** 3 ? 116 * Math.cbrt(y) - 16 : (29 / 3) ** 3 * y;
}
