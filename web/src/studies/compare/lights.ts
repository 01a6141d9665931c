// The light of wall and close look in an address, and back.
import { AS_MADE, GAINS, LIFTS, type Light, PLANES, SHADOWS } from "@/viewer/light";
import { MATCHES } from "@/viewer/matching";

type Query = (name: string) => string;

/** One of a few, as an address tells it; `otherwise` where it tells none of them. */
export function among<T extends string | number>(all: readonly T[], told: string, otherwise: T): T {
  return all.find((one) => String(one) === told) ?? otherwise;
}

export function lightFrom(query: Query): Light {
  return {
    lift: among(LIFTS, query("lift"), AS_MADE.lift as (typeof LIFTS)[number]),
    shadows: among(SHADOWS, query("shadows"), AS_MADE.shadows as (typeof SHADOWS)[number]),
    plane: among(PLANES, query("plane"), AS_MADE.plane),
    gain: among(GAINS, query("gained"), AS_MADE.gain as (typeof GAINS)[number]),
    match: among(MATCHES, query("match"), AS_MADE.match),
    clipped: query("marked").includes("clipped"),
    beyond: query("marked").includes("beyond"),
  };
}

/** What an address must tell of a light: only what is not as made. */
export function lightTold(light: Light): Record<string, string> {
  const marked = [light.clipped ? "clipped" : "", light.beyond ? "beyond" : ""];
  const told = {
    lift: light.lift === AS_MADE.lift ? "" : String(light.lift),
    shadows: light.shadows === AS_MADE.shadows ? "" : String(light.shadows),
    plane: light.plane === AS_MADE.plane ? "" : light.plane,
    gained: light.gain === AS_MADE.gain ? "" : String(light.gain),
    match: light.match === AS_MADE.match ? "" : light.match,
    marked: marked.filter(Boolean).join("-"),
  };
  return Object.fromEntries(Object.entries(told).filter(([, value]) => value));
}
