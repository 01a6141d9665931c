// The question, frames and contenders of a study.
import { type MaybeRefOrGetter, toValue } from "vue";

import { addressOf, api, ask, type Shape } from "@/api/client";
import { type Id, keys, ofStudy } from "@/api/keys";
import type { Contender, Frame, Treatment } from "@/api/types";
import { useAct } from "@/shared/lib/useAct";
import { useRemoval } from "@/shared/lib/useRemoval";
import { named } from "@/shared/lib/words";

export type Factor = Shape["StudyIn"]["factor"];

export function useStudyChanges(study: MaybeRefOrGetter<number>) {
  const stale = () => [keys.study(toValue(study)), keys.studies];
  const { act, busy } = useAct(stale);
  const removal = useRemoval(stale);
  const ofStudy = () => ({ path: { study_id: toValue(study) } });

  return {
    busy,
    save: (question: string, factor: Factor) =>
      act(
        () =>
          ask(
            api.PATCH("/api/studies/{study_id}", { params: ofStudy(), body: { question, factor } }),
          ),
        "Question saved.",
      ),
    takeFrame: (frame: number) =>
      act(() =>
        ask(api.POST("/api/studies/{study_id}/frames", { params: ofStudy(), body: { frame } })),
      ),
    removeFrame: (frame: Frame) =>
      removal.remove(
        `study ${toValue(study)} frame ${frame.id}`,
        `${frame.name} removed from the study.`,
        addressOf("/api/studies/{study_id}/frames/{frame_id}", {
          study_id: toValue(study),
          frame_id: frame.id,
        }),
      ),
    add: (body: Treatment) =>
      act(() => ask(api.POST("/api/studies/{study_id}/contenders", { params: ofStudy(), body }))),
    change: (contender: number, body: Treatment) =>
      act(() =>
        ask(
          api.PUT("/api/contenders/{contender_id}", {
            params: { path: { contender_id: contender } },
            body,
          }),
        ),
      ),
    addBody: (body: string) =>
      act(
        () =>
          ask(api.POST("/api/studies/{study_id}/bodies", { params: ofStudy(), body: { body } })),
        `${body} added; its shots are lined up with the frames.`,
      ),
    takeSeries: (scene: number, bodies: string[]) =>
      act(
        () =>
          ask(
            api.POST("/api/studies/{study_id}/series/scenes", {
              params: ofStudy(),
              body: { scene, bodies },
            }),
          ),
        "The bodies’ shots are lined up; draw a lit and a dark patch to compare them at.",
      ),
    remove: (contender: Contender) =>
      removal.remove(
        `contender ${contender.id}`,
        `${contender.letter}, ${named(contender)}, removed with its outputs.`,
        addressOf("/api/contenders/{contender_id}", { contender_id: contender.id }),
      ),
  };
}

export function usePlanChanges(study: Id) {
  const { act, busy } = useAct(() => [keys.part(toValue(study), "plan"), keys.queue]);
  return {
    busy,
    look: () => act(() => ask(api.POST("/api/studies/{study_id}/plan", ofStudy(toValue(study))))),
  };
}
