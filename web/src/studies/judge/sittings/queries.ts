// One sitting, and what came of it.
import { useQuery } from "@tanstack/vue-query";
import { computed, type MaybeRefOrGetter, toValue } from "vue";

import { api, ask } from "@/api/client";
import { keys, type Id } from "@/api/keys";

const AGAIN = 1500; // ms, while one is being prepared

const sittingKey = (study: number, sitting: number) => keys.part(study, "sittings", sitting);

export function useSitting(study: Id, sitting: Id) {
  return useQuery({
    queryKey: computed(() => sittingKey(toValue(study), toValue(sitting))),
    queryFn: () =>
      ask(
        api.GET("/api/sittings/{sitting_id}", {
          params: { path: { sitting_id: toValue(sitting) } },
        }),
      ),
    refetchInterval: (query) => (query.state.data?.state === "preparing" ? AGAIN : false),
  });
}

export function useOutcome(study: Id, sitting: Id, judges: MaybeRefOrGetter<"all" | "screened">) {
  return useQuery({
    queryKey: computed(() => [
      ...sittingKey(toValue(study), toValue(sitting)),
      "outcome",
      toValue(judges),
    ]),
    queryFn: () =>
      ask(
        api.GET("/api/sittings/{sitting_id}/outcome", {
          params: { path: { sitting_id: toValue(sitting) }, query: { judges: toValue(judges) } },
        }),
      ),
  });
}

export function useSpotOutcome(study: Id, sitting: Id, spot: MaybeRefOrGetter<number>) {
  return useQuery({
    queryKey: computed(() => [
      ...sittingKey(toValue(study), toValue(sitting)),
      "spot",
      toValue(spot),
    ]),
    queryFn: () =>
      ask(
        api.GET("/api/sittings/{sitting_id}/outcome/{spot}", {
          params: { path: { sitting_id: toValue(sitting), spot: toValue(spot) } },
        }),
      ),
  });
}

export interface Planned {
  kind: "pairs" | "single" | "order";
  contenders: number;
  spots: number;
  count: number;
  judges: number;
  obvious: "no" | "yes";
}

export function useProspect(planned: MaybeRefOrGetter<Planned>) {
  return useQuery({
    queryKey: computed(() => ["prospect", toValue(planned)]),
    queryFn: () => ask(api.GET("/api/sitting-prospect", { params: { query: toValue(planned) } })),
    placeholderData: (before) => before,
  });
}
