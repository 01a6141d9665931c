// A use as it is entered: a print by its paper, or a picture by its pixels.
import type { Shape } from "@/api/client";

export type OwnUse = Required<Shape["OwnUseIn"]>;

export interface Entered {
  kind: "print" | "picture";
  name: string;
  /** Of paper, cm. */
  across: number;
  down: number;
  /** Of a picture: the box that it fits. */
  width: number;
  height: number;
  enlarge: boolean;
  /** 0 without compression. */
  jpeg: number;
  ppi: number;
  distance: number;
  /** Of the sides that are shown, per cent. */
  part: number;
}

export const BLANK: Entered = {
  kind: "print",
  name: "",
  across: 45,
  down: 30,
  width: 1600,
  height: 1600,
  enlarge: false,
  jpeg: 85,
  ppi: 300,
  distance: 50,
  part: 100,
};
const CM_PER_INCH = 2.54;

/** What the server is told. */
export function useOf(entered: Entered): OwnUse {
  const { name, ppi, part } = entered;
  const shared = { name: name.trim(), ppi, distance_cm: entered.distance, part: part / 100 };
  if (entered.kind === "picture") {
    const { width, height, enlarge, jpeg } = entered;
    return { ...shared, width, height, enlarge, jpeg: jpeg || null };
  }
  const [width, height] = [entered.across, entered.down].map((cm) =>
    Math.round((cm / CM_PER_INCH) * ppi),
  ) as [number, number];
  return { ...shared, width, height, enlarge: true, jpeg: null };
}
