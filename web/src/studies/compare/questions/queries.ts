// What is asked of a whole study, and what came of it.
import { useQuery } from "@tanstack/vue-query";
import { computed, type MaybeRefOrGetter, toValue } from "vue";

import { api, ask } from "@/api/client";
import { type Id, keys, ofStudy } from "@/api/keys";
import { useAct } from "@/shared/lib/useAct";

const ASKED_AGAIN = 1500; // ms between two looks at whether an answer is there

/** Everything that was answered, in words. */
export function useInquiries(id: Id) {
  return useQuery({
    queryKey: computed(() => keys.part(toValue(id), "inquiries")),
    queryFn: () => ask(api.GET("/api/studies/{study_id}/inquiries", ofStudy(toValue(id)))),
  });
}

export function useVisibility(
  id: Id,
  against: MaybeRefOrGetter<string>,
  matched: MaybeRefOrGetter<boolean>,
) {
  return useQuery({
    queryKey: computed(() =>
      keys.part(toValue(id), "visibility", toValue(against), toValue(matched)),
    ),
    queryFn: () =>
      ask(
        api.GET("/api/studies/{study_id}/visibility", {
          params: {
            ...ofStudy(toValue(id)).params,
            query: { against: toValue(against), matched: toValue(matched) },
          },
        }),
      ),
    enabled: computed(() => !!toValue(against)),
    refetchInterval: (query) => (query.state.data?.state === "waiting" ? ASKED_AGAIN : false),
  });
}

export function useVisibilityChanges(id: Id) {
  const { act, busy } = useAct(() => [
    keys.part(toValue(id), "visibility"),
    keys.part(toValue(id), "inquiries"),
    keys.queue,
  ]);
  return {
    busy,
    look: (against: string, matched: boolean) =>
      act(() =>
        ask(
          api.POST("/api/studies/{study_id}/visibility", {
            ...ofStudy(toValue(id)),
            body: { against, matched },
          }),
        ),
      ),
  };
}

/** Where a picture behind an answer is had. */
export const evidenceAddress = (study: number, key: string, name: string): string =>
  `/api/studies/${study}/evidence/${key}/${name}.png`;
