// An ordered list of things that each have a kind and values: steps of a recipe, fields of a
// target.
import { ref } from "vue";

import type { StepKind } from "@/api/types";

export interface Step {
  kind: string;
  values: Record<string, number | string>;
}

export function useSteps(kinds: () => readonly StepKind[]) {
  const steps = ref<Step[]>([]);

  /** One more, with its usual values. */
  function add(id: string): void {
    const kind = kinds().find((k) => k.id === id);
    if (!kind) return;
    const values = Object.fromEntries(
      kind.parameters.map((p) => [p.name, p.usual as number | string]),
    );
    steps.value.push({ kind: id, values });
  }

  function move(at: number, by: number): void {
    const [step] = steps.value.splice(at, 1);
    if (step) steps.value.splice(Math.max(0, Math.min(steps.value.length, at + by)), 0, step);
  }

  /** As the server reads them. */
  function plain(): Record<string, number | string>[] {
    return steps.value.map((s) => ({ kind: s.kind, ...s.values }));
  }

  return { steps, add, move, plain };
}
