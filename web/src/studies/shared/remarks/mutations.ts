// Placing, changing and removing remarks.
import { type MaybeRefOrGetter, toValue } from "vue";

import { api, ask, type Shape } from "@/api/client";
import { keys } from "@/api/keys";
import type { Remark } from "@/api/types";
import { useAct } from "@/shared/lib/useAct";
import { useRemoval } from "@/shared/lib/useRemoval";

export function useRemarkChanges(study: MaybeRefOrGetter<number>) {
  const stale = () => [keys.part(toValue(study), "remarks")];
  const { act, busy } = useAct(stale);
  const removal = useRemoval(stale);
  return {
    busy,
    place: (body: Shape["RemarkIn"]) =>
      act(
        () =>
          ask(
            api.POST("/api/studies/{study_id}/remarks", {
              params: { path: { study_id: toValue(study) } },
              body,
            }),
          ),
        "Remark added.",
      ),
    change: (id: number, body: Shape["RemarkSaidIn"]) =>
      act(
        () =>
          ask(api.PUT("/api/remarks/{remark_id}", { params: { path: { remark_id: id } }, body })),
        "Remark saved.",
      ),
    remove: (remark: Remark) =>
      removal.remove(
        `remark ${remark.id}`,
        `Remark ${remark.number} removed.`,
        `/api/remarks/${remark.id}`,
      ),
  };
}
