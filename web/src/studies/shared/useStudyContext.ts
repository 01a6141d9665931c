// The study a stage belongs to, provided once by its page.
import { computed, type ComputedRef, inject, type InjectionKey, provide } from "vue";

import type { Contender, Frame, Output, Study } from "@/api/types";
import { isLeaving } from "@/shared/lib/useRemoval";

export interface StudyContext {
  study: ComputedRef<Study>;
  canEdit: ComputedRef<boolean>;
  /** Columns of the wall: truth only where a frame has one. */
  columns: ComputedRef<Contender[]>;
  treatments: ComputedRef<Contender[]>;
  outputOf: (contender: Contender, frame: Frame | number) => Output | undefined;
}

const KEY: InjectionKey<StudyContext> = Symbol("study");

/** A study without what is on its way out. */
export function withoutLeaving(study: Study): Study {
  const stays = (kind: string) => (thing: { id: number }) => !isLeaving(`${kind} ${thing.id}`);
  return {
    ...study,
    contenders: study.contenders.filter(stays("contender")),
    outputs: study.outputs.filter((o) => !isLeaving(`contender ${o.contender}`)),
    patches: study.patches.filter(stays("patch")),
    frames: study.frames
      .filter(stays(`study ${study.id} frame`))
      .map((f) => (isLeaving(`truth ${f.id}`) ? { ...f, truth: null } : f)),
  };
}

export function studyContext(whole: ComputedRef<Study>): StudyContext {
  const study = computed(() => whole.value && withoutLeaving(whole.value));
  const columns = computed(() => {
    const withTruth = study.value.frames.some((f) => f.truth);
    return study.value.contenders.filter((c) => c.kind !== "truth" || withTruth);
  });
  const cells = computed(
    () => new Map(study.value.outputs.map((o) => [`${o.contender}/${o.frame}`, o])),
  );
  return {
    study,
    columns,
    canEdit: computed(() => study.value.role !== "viewer"),
    treatments: computed(() => study.value.contenders.filter((c) => c.kind === "treatment")),
    outputOf: (contender, frame) =>
      cells.value.get(`${contender.id}/${typeof frame === "number" ? frame : frame.id}`),
  };
}

export function provideStudy(study: ComputedRef<Study>): StudyContext {
  const context = studyContext(study);
  provide(KEY, context);
  return context;
}

export function useStudyContext(): StudyContext {
  const found = inject(KEY);
  if (!found) throw new Error("no study is provided above");
  return found;
}
