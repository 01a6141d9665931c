// Jobs cancelled and retried.
import { api, ask } from "@/api/client";
import { keys } from "@/api/keys";
import { useAct } from "@/shared/lib/useAct";

export function useJobChanges() {
  const { act } = useAct(() => [keys.queue]);
  const of = (id: number) => ({ params: { path: { job_id: id } } });
  return {
    cancel: (id: number) => act(() => ask(api.POST("/api/jobs/{job_id}/cancel", of(id)))),
    retry: (id: number) => act(() => ask(api.POST("/api/jobs/{job_id}/retry", of(id)))),
  };
}
