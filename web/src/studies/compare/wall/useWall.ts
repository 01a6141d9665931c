// What the wall shows, in the address: columns and rows, their order, what was chosen.
import { computed, ref } from "vue";

import type { Contender, Measure, Reading } from "@/api/types";
import { useAddress } from "@/shared/lib/useAddress";
import { useStudyContext } from "@/studies/shared/useStudyContext";

import { arranged, lettersIn, movedTo, RANK, toggled } from "./columns";
import { measureOf, meanRank, sameSpot, type Spot, spotsOf, spread } from "./spots";

interface Read {
  readonly measures: readonly Measure[];
  readonly readings: readonly Reading[];
}

export interface Told {
  measure: Measure | undefined;
  readings: Reading[];
}

const MOST_PANES = 6;

export function useWall(read: () => Read | undefined) {
  const { study, columns } = useStudyContext();
  const { inAddress } = useAddress();
  const [frame, role, kind] = [inAddress("frame"), inAddress("role"), inAddress("kind")];
  const [shown, basis] = [inAddress("measure"), inAddress("readings")];
  const [rowOrder, spot, turned] = [inAddress("rows"), inAddress("spot"), inAddress("turned")];
  const [moved, held, hidden] = [inAddress("columns"), inAddress("held"), inAddress("hidden")];
  const order = inAddress("order");

  const truths = computed(
    () => new Set(columns.value.filter((c) => c.kind === "truth").map((c) => c.id)),
  );
  /** Readings by patch: of the basis asked for; the truth is never matched to anything. */
  const byPatch = computed(() => {
    const wanted = basis.value ? "matched" : "as made";
    const found = new Map<number, Reading[]>();
    for (const r of read()?.readings ?? [])
      if (r.patch !== null && (r.basis === wanted || truths.value.has(r.contender)))
        found.set(r.patch, [...(found.get(r.patch) ?? []), r]);
    return found;
  });

  function toldOf(s: Spot): Told {
    const mine = s.patch === undefined ? [] : (byPatch.value.get(s.patch) ?? []);
    const measure = measureOf(s.role, mine, read()?.measures ?? [], shown.value);
    return { measure, readings: mine.filter((r) => r.measure === measure?.id) };
  }

  const one = computed(() => study.value.patches.find((p) => p.id === Number(spot.value)));
  const rows = computed(() => {
    const spots = one.value
      ? sameSpot(one.value, study.value.frames)
      : spotsOf(study.value.patches, study.value.frames, {
          frame: frame.value,
          role: role.value,
          kind: kind.value,
        });
    const all = spots.map((s) => ({ spot: s, told: toldOf(s) }));
    if (rowOrder.value !== "differ") return all;
    return all.sort((a, b) => spread(b.told.readings) - spread(a.told.readings));
  });

  /** Readings that columns are ranked by: those that are told, or all of one measure. */
  const ranked = computed(() =>
    rows.value.flatMap(({ spot: s, told }) =>
      order.value === RANK || s.patch === undefined
        ? told.readings
        : (byPatch.value.get(s.patch) ?? []).filter((r) => r.measure === order.value),
    ),
  );
  function rankOf(letter: string): number | undefined {
    const id = columns.value.find((c) => c.letter === letter)?.id;
    return meanRank(ranked.value.filter((r) => r.contender === id));
  }
  const seen = computed<Contender[]>(() =>
    arranged(
      columns.value,
      {
        moved: lettersIn(moved.value),
        held: lettersIn(held.value),
        hidden: lettersIn(hidden.value),
        order: order.value,
      },
      rankOf,
    ),
  );
  const letters = computed(() => seen.value.map((c) => c.letter));

  function move(letter: string, to: string): void {
    order.value = "";
    moved.value = movedTo(letters.value, letter, to).join(",");
  }

  function step(letter: string, by: 1 | -1): void {
    const at = letters.value.indexOf(letter) + by;
    const next = [...letters.value];
    const [other] = next.splice(at, 1);
    if (other === undefined || at < 0) return;
    next.splice(at - by, 0, other);
    order.value = "";
    moved.value = next.join(",");
  }

  const hold = (letter: string): void => {
    held.value = toggled(lettersIn(held.value), letter).join(",");
  };
  const hide = (letter: string): void => {
    const now = toggled(lettersIn(hidden.value), letter);
    if (now.length < columns.value.length) hidden.value = now.join(",");
  };

  // Chosen crops are of one spot: panes show one.
  const chosen = ref<{ spot: Spot; letters: string[] }>();
  function choose(s: Spot, letter: string): void {
    const before = chosen.value?.spot.key === s.key ? chosen.value.letters : [];
    const now = toggled(before, letter);
    chosen.value = now.length && now.length <= MOST_PANES ? { spot: s, letters: now } : undefined;
  }
  const isChosen = (s: Spot, letter: string): boolean =>
    chosen.value?.spot.key === s.key && chosen.value.letters.includes(letter);

  return {
    ...{ frame, role, kind, shown, basis, rowOrder, spot, turned, order, moved, held, hidden },
    ...{ rows, one, seen, move, step, hold, hide, chosen, choose, isChosen },
  };
}

export type Wall = ReturnType<typeof useWall>;
