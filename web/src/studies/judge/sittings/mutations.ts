// Composing, opening to guests, closing, removing.
import { type MaybeRefOrGetter, toValue } from "vue";

import { addressOf, api, ask, deleteAt, type Shape } from "@/api/client";
import { useAct } from "@/shared/lib/useAct";
import { sittingsKey } from "@/studies/shared/sittings/queries";

export function useSittingActs(study: MaybeRefOrGetter<number>) {
  const { act, busy } = useAct(() => [sittingsKey(toValue(study))]);
  const of = (sitting: number) => ({ params: { path: { sitting_id: sitting } } });
  return {
    busy,
    compose: (body: Shape["SittingIn"]) =>
      act(
        () =>
          ask(
            api.POST("/api/studies/{study_id}/sittings", {
              params: { path: { study_id: toValue(study) } },
              body,
            }),
          ),
        "Its crops are being frozen; then it is open.",
      ),
    close: (sitting: number) =>
      act(() => ask(api.POST("/api/sittings/{sitting_id}/close", of(sitting))), "Sitting closed."),
    remove: (sitting: number) =>
      act(async () => {
        await deleteAt(addressOf("/api/sittings/{sitting_id}", { sitting_id: sitting }));
        return true;
      }, "Sitting removed."),
    sit: (sitting: number) =>
      act(() => ask(api.POST("/api/sittings/{sitting_id}/seat", of(sitting)))),
    addLink: (sitting: number, body: Shape["GuestLinkIn"]) =>
      act(
        () => ask(api.POST("/api/sittings/{sitting_id}/links", { ...of(sitting), body })),
        "Link added.",
      ),
    revoke: (link: number) =>
      act(
        () =>
          deleteAt(addressOf("/api/sitting-links/{sitting_link_id}", { sitting_link_id: link })),
        "Link ended.",
      ),
  };
}
