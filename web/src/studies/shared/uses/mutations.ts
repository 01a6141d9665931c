// Adding a use of one's own, and taking one away.
import { api, ask, type Shape } from "@/api/client";
import { keys } from "@/api/keys";
import type { ViewingUse } from "@/api/types";
import { useAct } from "@/shared/lib/useAct";

export function useUseChanges() {
  const { act, busy } = useAct(() => [keys.uses]);
  return {
    busy,
    add: (body: Shape["OwnUseIn"]) => act(() => ask(api.POST("/api/uses", { body })), "Use added."),
    remove: (use: ViewingUse) =>
      act(
        () => ask(api.DELETE("/api/uses/{use_id}", { params: { path: { use_id: use.row ?? 0 } } })),
        {
          done: `“${use.name}” removed.`,
          undo: () => ask(api.POST("/api/uses", { body: use })),
        },
      ),
  };
}
