// What is asked of a whole study, and what came of it.
import { useQuery } from "@tanstack/vue-query";
import { computed, type MaybeRefOrGetter, toValue } from "vue";

import { api, ask, type Shape } from "@/api/client";
import { type Id, keys, ofStudy } from "@/api/keys";
import { useAct } from "@/shared/lib/useAct";

type Way = Shape["LevelIn"]["way"];
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

export function useStrength(id: Id, use: MaybeRefOrGetter<string>) {
  return useQuery({
    queryKey: computed(() => keys.part(toValue(id), "strength", toValue(use))),
    queryFn: () =>
      ask(
        api.GET("/api/studies/{study_id}/strength", {
          params: { ...ofStudy(toValue(id)).params, query: { use: toValue(use) } },
        }),
      ),
    refetchInterval: (query) => (query.state.data?.state === "waiting" ? ASKED_AGAIN : false),
  });
}

export function useStrengthChanges(id: Id) {
  const { act, busy } = useAct(() => [
    keys.part(toValue(id), "strength"),
    keys.part(toValue(id), "inquiries"),
    keys.queue,
  ]);
  return {
    busy,
    measure: (use: string) =>
      act(() =>
        ask(
          api.POST("/api/studies/{study_id}/strength", { ...ofStudy(toValue(id)), body: { use } }),
        ),
      ),
  };
}

export function useLevel(
  id: Id,
  one: MaybeRefOrGetter<string>,
  other: MaybeRefOrGetter<string>,
  way: MaybeRefOrGetter<Way>,
) {
  return useQuery({
    queryKey: computed(() =>
      keys.part(toValue(id), "level", toValue(one), toValue(other), toValue(way)),
    ),
    queryFn: () =>
      ask(
        api.GET("/api/studies/{study_id}/level", {
          params: {
            ...ofStudy(toValue(id)).params,
            query: { one: toValue(one), other: toValue(other), way: toValue(way) },
          },
        }),
      ),
    enabled: computed(() => !!toValue(one) && !!toValue(other)),
    refetchInterval: (query) => (query.state.data?.state === "waiting" ? ASKED_AGAIN : false),
  });
}

export function useLevelChanges(id: Id) {
  const { act, busy } = useAct(() => [
    keys.part(toValue(id), "level"),
    keys.part(toValue(id), "inquiries"),
    keys.study(toValue(id)),
    keys.queue,
  ]);
  const body = (one: string, other: string, way: Way) => ({
    ...ofStudy(toValue(id)),
    body: { one, other, way },
  });
  return {
    busy,
    level: (one: string, other: string, way: Way) =>
      act(() => ask(api.POST("/api/studies/{study_id}/level", body(one, other, way)))),
    enter: (one: string, other: string, way: Way) =>
      act(() => ask(api.POST("/api/studies/{study_id}/level/entered", body(one, other, way))), {
        done: (made) => `${made.letter} is being made from the outputs of ${one}.`,
      }),
  };
}

export function useOrder(id: Id) {
  return useQuery({
    queryKey: computed(() => keys.part(toValue(id), "order")),
    queryFn: () => ask(api.GET("/api/studies/{study_id}/order", ofStudy(toValue(id)))),
    refetchInterval: (query) => (query.state.data?.state === "waiting" ? ASKED_AGAIN : false),
  });
}

export function useOrderChanges(id: Id) {
  const { act, busy } = useAct(() => [
    keys.part(toValue(id), "order"),
    keys.part(toValue(id), "inquiries"),
    keys.study(toValue(id)),
    keys.queue,
  ]);
  return {
    busy,
    compare: () => act(() => ask(api.POST("/api/studies/{study_id}/order", ofStudy(toValue(id))))),
    enterBetween: () =>
      act(() => ask(api.POST("/api/studies/{study_id}/order/between", ofStudy(toValue(id)))), {
        done: ({ letters }) => `${letters.join(", ")} entered: the first steps alone.`,
      }),
  };
}

export function useReleases(
  id: Id,
  earlier: MaybeRefOrGetter<string>,
  later: MaybeRefOrGetter<string>,
) {
  return useQuery({
    queryKey: computed(() => keys.part(toValue(id), "releases", toValue(earlier), toValue(later))),
    queryFn: () =>
      ask(
        api.GET("/api/studies/{study_id}/releases", {
          params: {
            ...ofStudy(toValue(id)).params,
            query: { earlier: toValue(earlier), later: toValue(later) },
          },
        }),
      ),
    refetchInterval: (query) => (query.state.data?.state === "waiting" ? ASKED_AGAIN : false),
  });
}

export function useReleaseChanges(id: Id) {
  const { act, busy } = useAct(() => [
    keys.part(toValue(id), "releases"),
    keys.part(toValue(id), "inquiries"),
    keys.queue,
  ]);
  return {
    busy,
    compare: (earlier: string, later: string) =>
      act(() =>
        ask(
          api.POST("/api/studies/{study_id}/releases", {
            ...ofStudy(toValue(id)),
            body: { earlier, later },
          }),
        ),
      ),
  };
}

export interface WorthNumbers {
  pictures: number;
  years: number;
  batch: number;
  megapixels: number;
}

export function useWorth(id: Id, numbers: MaybeRefOrGetter<WorthNumbers>) {
  return useQuery({
    queryKey: computed(() => keys.part(toValue(id), "worth", toValue(numbers))),
    queryFn: () =>
      ask(
        api.GET("/api/studies/{study_id}/worth", {
          params: { ...ofStudy(toValue(id)).params, query: toValue(numbers) },
        }),
      ),
    placeholderData: (before) => before,
  });
}

/** Where a picture behind an answer is had. */
export const evidenceAddress = (study: number, key: string, name: string): string =>
  `/api/studies/${study}/evidence/${key}/${name}.png`;
