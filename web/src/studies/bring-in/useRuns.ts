// Asking for outputs to be made, watching them, calling them off.
import { computed, type ComputedRef } from "vue";

import { api, ask, type Shape } from "@/api/client";
import { type Covered, type Study, useCoverage } from "@/api/queries";
import { counted } from "@/shared/lib/words";
import { useAct } from "@/shared/lib/useAct";
import { useNotices } from "@/shared/lib/useNotices";

export type Which = Shape["RunsIn"]["which"];
export interface CellPlace {
  contender: number;
  frame: number;
}

export function useRuns(study: ComputedRef<Study>) {
  const id = computed(() => study.value.id);
  const { data: coverage } = useCoverage(id);
  const { busy, act } = useAct();
  const notices = useNotices();
  const params = computed(() => ({ path: { study_id: id.value } }));
  const cells = computed(
    () => new Map((coverage.value?.cells ?? []).map((c) => [`${c.contender}/${c.frame}`, c])),
  );
  const covered = (contender: number, frame: number): Covered | undefined =>
    cells.value.get(`${contender}/${frame}`);
  const count = (state: Covered["state"]): number => coverage.value?.counts[state] ?? 0;
  const toMake = computed(
    () =>
      (coverage.value?.cells ?? []).filter(
        (c) => !c.by_hand && (c.state === "missing" || (c.state === "made" && c.out_of_date)),
      ).length,
  );

  async function run(which: Which, places: CellPlace[] = [], repeats = 1): Promise<void> {
    const body = { which, cells: places, repeats };
    const asked = await act(() =>
      ask(api.POST("/api/studies/{study_id}/runs", { params: params.value, body })),
    );
    if (!asked) return;
    const told = [
      asked.queued ? `${counted(asked.queued, "output")} queued.` : "Nothing was queued.",
      ...asked.impossible,
      ...asked.by_hand,
    ];
    notices.tell(told.join(" "));
  }

  const callOff = () =>
    act(
      () => ask(api.DELETE("/api/studies/{study_id}/runs", { params: params.value })),
      "Called off.",
    );

  /** Have what is in view made first. */
  async function front(places: CellPlace[]): Promise<void> {
    if (!places.length) return;
    const body = { cells: places };
    await ask(api.POST("/api/studies/{study_id}/runs/front", { params: params.value, body })).catch(
      () => undefined,
    );
  }

  return { coverage, covered, count, toMake, busy, run, callOff, front };
}

export type Runs = ReturnType<typeof useRuns>;
