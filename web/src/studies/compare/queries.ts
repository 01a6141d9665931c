// What the pages of this area read.
import { useQuery } from "@tanstack/vue-query";
import { computed, type MaybeRefOrGetter, toValue } from "vue";

import { api, ask } from "@/api/client";
import { keys, type Id, ofStudy } from "@/api/keys";

type Readings = MaybeRefOrGetter<string>;
const asked = (readings: Readings) =>
  toValue(readings) === "matched" ? ({ readings: "matched" } as const) : {};

export function useReadings(id: Id) {
  const key = computed(() => keys.part(toValue(id), "readings"));
  return useQuery({
    queryKey: key,
    queryFn: () => ask(api.GET("/api/studies/{study_id}/readings", ofStudy(toValue(id)))),
  });
}

/** Findings in words, and which measures there are readings of. */
export function useAnswers(id: Id, readings: Readings) {
  return useQuery({
    queryKey: computed(() => keys.part(toValue(id), "answers", toValue(readings))),
    queryFn: () =>
      ask(
        api.GET("/api/studies/{study_id}/answers", {
          params: { ...ofStudy(toValue(id)).params, query: asked(readings) },
        }),
      ),
  });
}

/** Medians over the places of each role, kind of scene or frame. */
export function useSummary(id: Id, by: MaybeRefOrGetter<string>, readings: Readings) {
  return useQuery({
    queryKey: computed(() => keys.part(toValue(id), "summary", toValue(by), toValue(readings))),
    queryFn: () =>
      ask(
        api.GET("/api/studies/{study_id}/summary", {
          params: {
            ...ofStudy(toValue(id)).params,
            query: { by: toValue(by) as "role" | "kind" | "frame", ...asked(readings) },
          },
        }),
      ),
    enabled: computed(() => ["role", "kind", "frame"].includes(toValue(by))),
  });
}

/** Every contender against every other, by one measure. */
export function useStandings(id: Id, measure: MaybeRefOrGetter<string>, readings: Readings) {
  return useQuery({
    queryKey: computed(() =>
      keys.part(toValue(id), "standings", toValue(measure), toValue(readings)),
    ),
    queryFn: () =>
      ask(
        api.GET("/api/studies/{study_id}/standings", {
          params: {
            ...ofStudy(toValue(id)).params,
            query: { measure: toValue(measure), ...asked(readings) },
          },
        }),
      ),
    enabled: computed(() => !!toValue(measure)),
  });
}

export function useTrade(
  id: Id,
  x: MaybeRefOrGetter<string>,
  y: MaybeRefOrGetter<string>,
  readings: Readings,
) {
  return useQuery({
    queryKey: computed(() =>
      keys.part(toValue(id), "tradeoff", toValue(x), toValue(y), toValue(readings)),
    ),
    queryFn: () =>
      ask(
        api.GET("/api/studies/{study_id}/tradeoff", {
          params: {
            ...ofStudy(toValue(id)).params,
            query: { x: toValue(x), y: toValue(y), ...asked(readings) },
          },
        }),
      ),
    enabled: computed(() => !!toValue(x) && !!toValue(y)),
  });
}

/** The curves behind one patch's readings. */
export function useCurves(id: Id, patch: MaybeRefOrGetter<number | undefined>, readings: Readings) {
  return useQuery({
    queryKey: computed(() => keys.part(toValue(id), "curves", toValue(patch), toValue(readings))),
    queryFn: () =>
      ask(
        api.GET("/api/studies/{study_id}/curves", {
          params: {
            ...ofStudy(toValue(id)).params,
            query: { patch: toValue(patch) ?? 0, ...asked(readings) },
          },
        }),
      ),
    enabled: computed(() => toValue(patch) !== undefined),
  });
}

/**
 * Patches that a frame suggests: read again until it was looked through, once that was asked for.
 */
export function useSuggestions(
  frame: MaybeRefOrGetter<number | undefined>,
  wanted: MaybeRefOrGetter<boolean>,
  study: MaybeRefOrGetter<number>,
) {
  return useQuery({
    queryKey: computed(() => ["suggestions", toValue(frame), toValue(study)]),
    queryFn: () =>
      ask(
        api.GET("/api/frames/{frame_id}/suggestions", {
          params: { path: { frame_id: toValue(frame) ?? 0 }, query: { study: toValue(study) } },
        }),
      ),
    enabled: computed(() => toValue(frame) !== undefined && toValue(wanted)),
    refetchInterval: (query) => (query.state.data?.ready ? false : 1200),
  });
}
