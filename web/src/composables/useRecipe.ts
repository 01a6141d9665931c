// A degradation being put together: steps, seed, and what it would do to a place of the frame.
import { computed, onScopeDispose, ref, watch } from "vue";

import { csrf } from "../api/client";
import type { StepKind } from "../api/queries";

export interface RecipeStep {
  kind: string;
  values: Record<string, number | string>;
}

export interface Sweep {
  step: number;
  parameter: string;
  values: number[];
}

const WAIT_MS = 250;

export function useRecipe(frame: () => number, kinds: () => readonly StepKind[]) {
  const steps = ref<RecipeStep[]>([]);
  const seed = ref(1);
  const spot = ref({ x: 0, y: 0 });
  const shown = ref("");
  const problem = ref("");
  const recipe = computed(() => ({
    seed: seed.value,
    steps: steps.value.map((s) => ({ kind: s.kind, ...s.values })),
  }));
  let timer = 0;
  let asked = 0;

  function add(id: string): void {
    const kind = kinds().find((k) => k.id === id);
    if (!kind) return;
    const values = Object.fromEntries(kind.parameters.map((p) => [p.name, p.usual as number | string]));
    steps.value.push({ kind: id, values });
  }

  function move(at: number, by: number): void {
    const [step] = steps.value.splice(at, 1);
    if (step) steps.value.splice(Math.max(0, Math.min(steps.value.length, at + by)), 0, step);
  }

  /** The newest answer wins; an older one that comes late is dropped. */
  async function preview(): Promise<void> {
    const mine = ++asked;
    if (!steps.value.length) return show("", "");
    const answer = await fetch(`/api/frames/${frame()}/degradations/preview`, {
      method: "POST",
      headers: { "Content-Type": "application/json", "X-CSRFToken": csrf() },
      body: JSON.stringify({ recipe: recipe.value, ...spot.value }),
    }).catch(() => undefined);
    if (mine !== asked) return;
    if (!answer) return show(shown.value, "The server does not answer; the preview is out of date.");
    if (!answer.ok) return show("", ((await answer.json()) as { detail?: string }).detail ?? "No preview.");
    show(URL.createObjectURL(await answer.blob()), "");
  }

  function show(url: string, why: string): void {
    if (shown.value && shown.value !== url) URL.revokeObjectURL(shown.value);
    shown.value = url;
    problem.value = why;
  }

  watch(
    [recipe, spot],
    () => {
      window.clearTimeout(timer);
      timer = window.setTimeout(() => void preview(), WAIT_MS);
    },
    { deep: true },
  );
  onScopeDispose(() => {
    window.clearTimeout(timer);
    show("", "");
  });

  return { steps, seed, spot, recipe, shown, problem, add, move };
}
