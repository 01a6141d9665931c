// Taking a seat as a guest, and telling of the screen.
import { ref } from "vue";

import { api, ask } from "@/api/client";
import { useAct } from "@/shared/lib/useAct";

import { seatKey } from "./queries";

export function useTakeSeat(key: string) {
  const { act, busy } = useAct(() => []);
  return {
    busy,
    take: (nickname: string) =>
      act(() =>
        ask(
          api.POST("/api/invitations/{link_key}/seats", {
            params: { path: { link_key: key } },
            body: { nickname },
          }),
        ),
      ),
  };
}

export function useTellScreen(key: string) {
  const { act, busy } = useAct(() => [seatKey(key)]);
  const told = ref(false);
  async function tell(screen: Record<string, number>): Promise<void> {
    told.value = !!(await act(() =>
      ask(
        api.PUT("/api/seats/{seat_key}/screen", {
          params: { path: { seat_key: key } },
          body: { told: screen },
        }),
      ),
    ));
  }
  return { busy, told, tell };
}
