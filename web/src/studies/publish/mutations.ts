// The report’s text, and its editions.
import { type MaybeRefOrGetter, toValue } from "vue";

import { api, ask, askTagged, type Shape } from "@/api/client";
import { keys } from "@/api/keys";
import { useAct } from "@/shared/lib/useAct";
import { begun } from "./retest";

/** Save an article; answers with the tag of what is kept now. */
export const putReport = (
  study: number,
  body: Shape["ReportWriteIn"],
  headers: Record<string, string>,
) =>
  askTagged(
    api.PUT("/api/studies/{study_id}/report", {
      params: { path: { study_id: study } },
      body,
      headers,
    }),
  );

export function useReportChanges(study: MaybeRefOrGetter<number>) {
  const { act, busy } = useAct(() => [keys.part(toValue(study), "report"), keys.queue]);
  const ofStudy = () => ({ params: { path: { study_id: toValue(study) } } });
  return {
    busy,
    publish: (body: Shape["NoteIn"]) =>
      act(() =>
        ask(
          api.POST("/api/studies/{study_id}/editions", {
            ...ofStudy(),
            body,
          }),
        ),
      ),
    withdraw: (number: number, reason: string) =>
      act(
        () =>
          ask(
            api.PUT("/api/studies/{study_id}/editions/{number}/withdrawn", {
              params: { path: { study_id: toValue(study), number } },
              body: { reason },
            }),
          ),
        `Edition ${number} withdrawn.`,
      ),
  };
}

export function useCorrectionChanges(study: MaybeRefOrGetter<number>) {
  const { act, busy } = useAct(() => [keys.part(toValue(study), "corrections")]);
  const path = "/api/studies/{study_id}/corrections";
  return {
    busy,
    add: (body: Shape["CorrectionIn"]) =>
      act(
        () => ask(api.POST(path, { params: { path: { study_id: toValue(study) } }, body })),
        "Correction added; the next edition has it.",
      ),
    remove: (number: number) =>
      act(
        () =>
          ask(
            api.DELETE(`${path}/{number}`, {
              params: { path: { study_id: toValue(study), number } },
            }),
          ),
        "Correction removed.",
      ),
  };
}

export function useRetesting(study: MaybeRefOrGetter<number>) {
  const { act, busy } = useAct(() => [keys.study(toValue(study)), keys.studies, keys.queue]);
  return {
    busy,
    begin: (body: Shape["RetestIn"]) =>
      act(
        () =>
          ask(
            api.POST("/api/studies/{study_id}/retests", {
              params: { path: { study_id: toValue(study) } },
              body,
            }),
          ),
        { done: begun },
      ),
  };
}

export function useCommentChanges(study: MaybeRefOrGetter<number>) {
  const { act, busy } = useAct(() => [
    keys.part(toValue(study), "comments"),
    keys.part(toValue(study), "report"),
  ]);
  const of = (comment: number) => ({
    params: { path: { study_id: toValue(study), comment_id: comment } },
  });
  return {
    busy,
    say: (body: Shape["CommentIn"]) =>
      act(() =>
        ask(
          api.POST("/api/studies/{study_id}/report/comments", {
            params: { path: { study_id: toValue(study) } },
            body,
          }),
        ),
      ),
    settle: (comment: number, settled: boolean) =>
      act(() =>
        ask(
          api.PUT("/api/studies/{study_id}/report/comments/{comment_id}", {
            ...of(comment),
            body: { settled },
          }),
        ),
      ),
    remove: (comment: number) =>
      act(
        () => ask(api.DELETE("/api/studies/{study_id}/report/comments/{comment_id}", of(comment))),
        "Comment deleted.",
      ),
  };
}
