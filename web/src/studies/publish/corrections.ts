// Where an edition may have been wrong, as it is chosen and sent.
import type { Shape } from "@/api/client";
import type { BlockKind } from "./blocks";

export interface Spot {
  id: number;
  name: string;
  frame: number;
}

/** The parts of the page, then its figures by name. */
export function placesOf(
  kinds: readonly BlockKind[],
  patches: readonly Spot[],
  frames: readonly { id: number; name: string }[],
): { key: string; title: string }[] {
  const names = new Map(frames.map((f) => [f.id, f.name]));
  return [
    ...kinds
      .filter((k) => !k.own && k.id !== "corrections")
      .map((k) => ({ key: `block ${k.id}`, title: k.title })),
    ...patches.map((p) => ({
      key: `patch ${p.id}`,
      title: `Figure: ${p.name}, ${names.get(p.frame) ?? ""}`,
    })),
  ];
}

export function correctionOf(
  edition: number,
  place: string,
  measure: string | null,
  letter: string | null,
  text: string,
): Shape["CorrectionIn"] {
  const [kind, of = ""] = place.split(" ");
  const figure = kind === "patch";
  return {
    edition,
    block: figure ? "" : of,
    patch: figure ? Number(of) : null,
    measure: (figure && measure) || "",
    letter: (figure && letter) || "",
    text: text.trim(),
  };
}
