// A treatment in the making: steps whose settings follow from the release that is chosen.
import { computed, ref, watch } from "vue";

import type { Method, Release, Setting, SettingKind, Step, Treatment } from "@/api/types";
import { useMethods, useTools } from "@/tools/queries";

export const FEEDS = ["16-bit TIFF", "original file"] as const satisfies Treatment["feed"][];

export function freshStep(): Step {
  const told = { tool: "", release: "", mode: "", method: "", limit: "" };
  return { ...told, settings: [], strength: null, automatic: false, part: null };
}

/** A copy of its own, with every field that was left to its usual value. */
export function copyOf(step: Treatment["steps"][number]): Step {
  const told = JSON.parse(JSON.stringify(step)) as Partial<Step>;
  return { ...freshStep(), ...told, settings: told.settings ?? [] };
}

function usualOf(kind: SettingKind): Setting {
  return { name: kind.name, value: kind.usual ?? null, unit: kind.unit, automatic: false };
}

export function useTreatment(start?: Treatment | null) {
  const { data: tools } = useTools();
  const { data: methods } = useMethods();
  const steps = ref<Step[]>(start?.steps.length ? start.steps.map(copyOf) : [freshStep()]);
  const early = new Set<string>();
  const feed = ref<Treatment["feed"]>(start?.feed ?? FEEDS[0]);

  const programs = computed(() =>
    (tools.value ?? []).filter((t) => !t.releases.some((r) => r.method)).map((t) => t.name),
  );
  const releasesOf = (tool: string): Release[] =>
    (tools.value ?? []).find((t) => t.name === tool)?.releases ?? [];
  const methodOf = (step: Step): Method | undefined =>
    methods.value?.find((m) => m.id === step.method);
  const releaseOf = (step: Step): Release | undefined =>
    releasesOf(step.tool).find((r) => r.name === step.release);

  /** The settings that a step's release or method has; none where nobody has written them down. */
  const kindsOf = (step: Step): readonly SettingKind[] =>
    methodOf(step)?.settings ?? releaseOf(step)?.settings ?? [];
  const hasStrength = (step: Step): boolean =>
    step.method ? !methodOf(step)?.resizes : (releaseOf(step)?.strength ?? true);

  /** Take a tool or method, its newest release and its usual settings. */
  function choose(step: Step, name: string): void {
    const method = methods.value?.find((m) => m.title === name);
    if (!tools.value || !methods.value) early.add(name);
    step.tool = name;
    step.method = method?.id ?? "";
    step.release = method ? "" : (releasesOf(name).at(-1)?.name ?? "");
    step.mode = "";
    follow(step);
  }

  // A tool that was named before the tools had arrived is looked up once they have.
  watch([tools, methods], () => {
    for (const step of steps.value) if (early.has(step.tool)) choose(step, step.tool);
    if (tools.value && methods.value) early.clear();
  });

  /** After another release was taken: settings of the same names keep their values. */
  function follow(step: Step): void {
    const kinds = kindsOf(step);
    const kept = new Map(step.settings.map((s) => [s.name, s]));
    if (kinds.length) step.settings = kinds.map((k) => kept.get(k.name) ?? usualOf(k));
    else if (step.method) step.settings = [];
    if (!hasStrength(step)) step.strength = null;
  }

  function move(at: number, by: number): void {
    const [step] = steps.value.splice(at, 1);
    if (step) steps.value.splice(at + by, 0, step);
  }

  const treatment = computed<Treatment>(() => ({
    steps: steps.value.map(copyOf),
    feed: feed.value,
  }));
  const ready = computed(() => steps.value.every((s) => s.tool.trim()));
  function take(other: Treatment): void {
    steps.value = other.steps.map(copyOf);
    feed.value = other.feed;
  }

  return {
    steps,
    feed,
    programs,
    methods,
    releasesOf,
    releaseOf,
    kindsOf,
    hasStrength,
    choose,
    follow,
    move,
    treatment,
    ready,
    take,
  };
}

export type TreatmentDraft = ReturnType<typeof useTreatment>;
