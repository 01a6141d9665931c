// What is made and what is not, and the ways to change it.
import { computed, type ComputedRef } from "vue";

import type { Covered, Study } from "@/api/types";

import { useRunChanges } from "./mutations";
import { useCoverage } from "./queries";

export function useRuns(study: ComputedRef<Study>) {
  const id = computed(() => study.value.id);
  const { data: coverage } = useCoverage(id);
  const changes = useRunChanges(id);
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
  return { coverage, covered, count, toMake, ...changes };
}

export type Runs = ReturnType<typeof useRuns>;
