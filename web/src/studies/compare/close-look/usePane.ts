// What one pane draws: its picture as made, under a light, or as it is seen in a use; what lies
// under its boundary; what it differs by.
import { computed } from "vue";

import type { Output } from "@/api/types";
import { differenceLayer } from "@/viewer/differences";
import type { Drawing } from "@/viewer/drawing";
import { atOwnPixels, IDENTITY, magnifications } from "@/viewer/geometry";
import { lightLayer, lightWords } from "@/viewer/light";
import { matcherFor } from "@/viewer/matching";

import { seenMapping, seenWords } from "./seen";
import type { Look, Pane } from "./useLook";
import type { LookSeeing } from "./useSeeing";

const ready = (pane: Pane | undefined): Output | undefined =>
  pane?.output?.state === "ready" && pane.output.picture ? pane.output : undefined;

export function usePane(look: Look, seeing: LookSeeing, pane: () => Pane) {
  const output = computed(() => ready(pane()));
  const other = computed(() => {
    const { arrangement, against } = look.arranged;
    const joined = arrangement === "reveal" || arrangement === "difference";
    return joined && against !== pane().contender.letter ? look.against.value : undefined;
  });
  const view = computed(() => look.view.value);

  /** An output as it is drawn; nothing while there is nothing of it. */
  function drawnOf(of: Output | undefined): Drawing | undefined {
    if (!of?.picture) return undefined;
    const asMade = of.lineup ?? IDENTITY;
    const use = seeing.use.value;
    const seen = use && seeing.of(of.id).seen;
    if (use && !seen) return undefined;
    const mapping = seen ? seenMapping(asMade, seen) : asMade;
    const drawn = look.scale.value === "subject" ? view.value : atOwnPixels(view.value, mapping);
    if (!seen)
      return {
        picture: of.picture,
        mapping,
        layer: lightLayer(of.picture.id, look.light, of.tone),
        view: drawn,
      };
    const { width, height, levels, key } = seen;
    const base = `/api/outputs/${of.id}/seen/${key}`;
    const address = (l: number, c: number, r: number) => `${base}/${l}/${c}_${r}.png`;
    return {
      picture: { id: of.picture.id, width, height, levels, address },
      mapping,
      layer: null,
      view: drawn,
    };
  }

  const drawn = computed(() => drawnOf(output.value));
  const under = computed(() =>
    look.arranged.arrangement === "reveal" ? drawnOf(ready(other.value)) : undefined,
  );
  /** What it differs by, where that is what is shown. */
  const difference = computed(() => {
    const [one, two] = [output.value, ready(other.value)];
    const { arrangement, kind, gain } = look.arranged;
    if (arrangement !== "difference" || !one || !two) return undefined;
    const lie = JSON.stringify(
      [one.lineup, two.lineup].map((l) => [l?.sx, l?.dx, l?.dy, l?.residual]),
    );
    const { match } = look.light;
    return differenceLayer({ one: one.id, two: two.id, kind, gain, match, lie });
  });
  /** The view that is drawn: a difference lies on the frame's pixels. */
  const drawnView = computed(() =>
    difference.value ? view.value : (drawn.value?.view ?? view.value),
  );
  const light = computed(() => {
    const matched = matcherFor(look.light.match, output.value?.tone) !== null;
    if (difference.value)
      return `× ${look.arranged.gain}${matched ? `, ${look.light.match} matched` : ""}`;
    return seeing.use.value ? "" : lightWords(look.light, matched);
  });
  const inUse = computed(() => seeing.use.value?.name ?? "");
  const magnification = computed(() =>
    magnifications(
      drawnView.value,
      difference.value ? (output.value?.lineup ?? IDENTITY) : (drawn.value?.mapping ?? IDENTITY),
      seeing.use.value ? "use" : "output",
    ),
  );
  /** How large it is as it is seen, and what it takes. */
  const told = computed(() => {
    const [use, of] = [seeing.use.value, output.value];
    const seen = use && of && seeing.of(of.id).seen;
    return seen ? seenWords(use, seen) : "";
  });
  const why = computed(() => {
    const o = pane().output;
    if (!o)
      return pane().contender.kind === "truth"
        ? "This frame has no truth."
        : "No output of this frame yet.";
    if (seeing.use.value && output.value)
      return seeing.of(output.value.id).problem || `It is being made as ${seeing.use.value.name}.`;
    return o.problem || "It is still being taken in and lined up.";
  });

  return {
    other,
    drawn,
    under,
    difference,
    drawnView,
    light,
    magnification,
    inUse,
    told,
    why,
  };
}
