// Studies added, duplicated, archived and removed.
import { api, ask, type Shape, upload } from "@/api/client";
import { keys } from "@/api/keys";
import type { StudyRow } from "@/api/types";
import { useAct } from "@/shared/lib/useAct";

export function useStudies() {
  const { act, busy } = useAct(() => [keys.studies, ["reports"]]);
  const of = (study: StudyRow) => ({ params: { path: { study_id: study.id } } });
  const setArchived = (study: StudyRow, archived: boolean) =>
    ask(api.PUT("/api/studies/{study_id}/archived", { ...of(study), body: { archived } }));
  return {
    busy,
    add: (body: Shape["StudyIn"]) => act(() => ask(api.POST("/api/studies", { body }))),
    takePlan: (file: File) =>
      act(() => upload<Shape["StudyPlanOut"]>("/api/plans", file), "Study begun by the plan."),
    duplicate: (study: StudyRow) =>
      act(() => ask(api.POST("/api/studies/{study_id}/copies", of(study)))),
    archive: (study: StudyRow, archived: boolean) =>
      act(() => setArchived(study, archived), {
        done: archived ? "Study archived." : "Study restored.",
        undo: () => setArchived(study, !archived),
      }),
    remove: (study: StudyRow) =>
      act(() => ask(api.DELETE("/api/studies/{study_id}", of(study))), "Study deleted."),
  };
}
