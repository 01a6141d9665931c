// Making outputs, timing them, bringing them in and taking them out.
import { type MaybeRefOrGetter, toValue } from "vue";

import { api, ask, type Shape } from "@/api/client";
import { keys } from "@/api/keys";
import { useAct } from "@/shared/lib/useAct";
import { counted } from "@/shared/lib/words";

export type Which = Shape["RunsIn"]["which"];

export interface CellPlace {
  contender: number;
  frame: number;
}

type Asked = Shape["AskedOut"];

const said = (asked: Asked): string =>
  [
    asked.queued ? `${counted(asked.queued, "output")} queued.` : "Nothing was queued.",
    ...asked.impossible,
    ...asked.by_hand,
  ].join(" ");

export function useRunChanges(study: MaybeRefOrGetter<number>) {
  const part = (name: string) => keys.part(toValue(study), name);
  const { act, busy } = useAct(() => [part("coverage"), part("page")]);
  const hot = useAct(() => [part("hot-folders")]);
  const ofStudy = () => ({ params: { path: { study_id: toValue(study) } } });
  const ofContender = (id: number) => ({ params: { path: { contender_id: id } } });
  return {
    busy,
    run: (which: Which, cells: CellPlace[] = [], repeats = 1) =>
      act(
        () =>
          ask(
            api.POST("/api/studies/{study_id}/runs", {
              ...ofStudy(),
              body: { which, cells, repeats },
            }),
          ),
        { done: said },
      ),
    cancel: () =>
      act(() => ask(api.DELETE("/api/studies/{study_id}/runs", ofStudy())), "Runs cancelled."),
    /** Have what is in view made first; that it could not be is no trouble. */
    front: (cells: CellPlace[]) =>
      ask(api.POST("/api/studies/{study_id}/runs/front", { ...ofStudy(), body: { cells } })).catch(
        () => undefined,
      ),
    openHot: (contender: number) =>
      hot.act(() =>
        ask(api.POST("/api/contenders/{contender_id}/hot-folder", ofContender(contender))),
      ),
    closeHot: (contender: number) =>
      hot.act(
        () => ask(api.DELETE("/api/contenders/{contender_id}/hot-folder", ofContender(contender))),
        "Hot folder closed; its files stay.",
      ),
  };
}

export function useCellChanges(
  study: MaybeRefOrGetter<number>,
  contender: MaybeRefOrGetter<number>,
  frame: MaybeRefOrGetter<number>,
) {
  const { act, busy } = useAct(() => [
    keys.page(toValue(study)),
    keys.part(toValue(study), "coverage"),
    keys.part(toValue(study), "costs"),
    ["runs"],
  ]);
  const ofCell = () => ({
    params: { path: { contender_id: toValue(contender), frame_id: toValue(frame) } },
  });
  return {
    busy,
    stateAbsence: (absence: string) =>
      act(() =>
        ask(
          api.PUT("/api/contenders/{contender_id}/outputs/{frame_id}", {
            ...ofCell(),
            body: { absence },
          }),
        ),
      ),
    remove: () =>
      act(
        () => ask(api.DELETE("/api/contenders/{contender_id}/outputs/{frame_id}", ofCell())),
        "Output removed; the file stays on the bench.",
      ),
    saveTimes: (body: Shape["TimesIn"]) =>
      act(() =>
        ask(
          api.PUT("/api/contenders/{contender_id}/outputs/{frame_id}/runs", { ...ofCell(), body }),
        ),
      ),
    removePreview: () =>
      act(() =>
        ask(api.DELETE("/api/contenders/{contender_id}/outputs/{frame_id}/preview", ofCell())),
      ),
  };
}

/** Ask for a frame's outputs as layers of one file; true once it is there. */
export async function askForLayers(study: number, frame: number, grid: string): Promise<boolean> {
  const query = { grid: grid === "largest" ? ("largest" as const) : ("frame" as const) };
  const call = api.POST("/api/studies/{study_id}/frames/{frame_id}/layers", {
    params: { path: { study_id: study, frame_id: frame }, query },
  });
  return (await ask(call)).ready;
}
