// What is concluded for each use.
import { type MaybeRefOrGetter, toValue } from "vue";

import { api, ask, type Shape } from "@/api/client";
import { keys } from "@/api/keys";
import { useAct } from "@/shared/lib/useAct";

type Guard = <R>(work: () => Promise<R>) => Promise<R>;

export function useSaveVerdicts(study: MaybeRefOrGetter<number>, guarded: Guard) {
  const { act, busy } = useAct(() => [
    keys.part(toValue(study), "verdicts"),
    keys.part(toValue(study), "evidence"),
    keys.page(toValue(study)),
  ]);
  return {
    busy,
    save: (verdicts: Shape["VerdictShape"][], headers: Record<string, string>) =>
      act(
        () =>
          guarded(() =>
            ask(
              api.PUT("/api/studies/{study_id}/verdicts", {
                params: { path: { study_id: toValue(study) } },
                body: { verdicts },
                headers,
              }),
            ),
          ),
        "Verdicts saved.",
      ),
  };
}
