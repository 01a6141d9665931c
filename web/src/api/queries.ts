// What the pages read, each under one key, so that a change can say what it makes stale.
import { useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed, type MaybeRefOrGetter, toValue } from "vue";

import { api, ask, type Shape } from "./client";

export type Session = Shape["SessionOut"];
export type StudyRow = Shape["StudyRow"];
export type Study = Shape["StudyOut"];
export type Frame = Shape["FrameOut"];
export type Picture = Shape["PictureOut"];
export type Facts = Shape["FactsOut"];
export type Contender = Shape["ContenderOut"];
export type Output = Shape["OutputOut"];
export type Patch = Shape["PatchOut"];
export type Reading = Shape["ReadingOut"];
export type Measure = Shape["MeasureOut"];
export type Job = Shape["JobOut"];
export type Step = Shape["StepOut"];
export type Scene = Shape["SceneOut"];
export type StepKind = Shape["StepKindOut"];
export type FrameDetail = Shape["FrameDetail"];
export type Finding = Shape["FindingOut"];
export type FieldReading = Shape["FieldReadingOut"];
export type Body = Shape["BodyOut"];
export type Target = Shape["TargetOut"];

/** As the server's material.models.SceneKind has them; the types say so if they part. */
export const SCENE_KINDS = [
  "fine texture",
  "hard edges",
  "plain areas",
  "deep shadow",
  "highlights",
  "lights at night",
  "out of focus",
  "moving",
  "face",
] as const satisfies Scene["kinds"];

type Id = MaybeRefOrGetter<number>;
const path = (id: number) => ({ params: { path: { study_id: id } } });

export function useSession() {
  return useQuery({
    queryKey: ["session"],
    queryFn: () => ask(api.GET("/api/session")),
    staleTime: Infinity,
  });
}

export function useStudies() {
  return useQuery({ queryKey: ["studies"], queryFn: () => ask(api.GET("/api/studies")) });
}

export function useStudy(id: Id) {
  const key = computed(() => ["study", toValue(id)]);
  return useQuery({
    queryKey: key,
    queryFn: () => ask(api.GET("/api/studies/{study_id}", path(toValue(id)))),
  });
}

export function useReadings(id: Id) {
  const key = computed(() => ["readings", toValue(id)]);
  return useQuery({
    queryKey: key,
    queryFn: () => ask(api.GET("/api/studies/{study_id}/readings", path(toValue(id)))),
  });
}

export function useReport(id: Id) {
  const key = computed(() => ["report", toValue(id)]);
  return useQuery({
    queryKey: key,
    queryFn: () => ask(api.GET("/api/studies/{study_id}/report", path(toValue(id)))),
  });
}

export function useVerdicts(id: Id) {
  const key = computed(() => ["verdicts", toValue(id)]);
  return useQuery({
    queryKey: key,
    queryFn: () => ask(api.GET("/api/studies/{study_id}/verdicts", path(toValue(id)))),
  });
}

export function useFrames() {
  return useQuery({ queryKey: ["frames"], queryFn: () => ask(api.GET("/api/frames")) });
}

export function useFrame(id: Id) {
  const key = computed(() => ["frame", toValue(id)]);
  return useQuery({
    queryKey: key,
    queryFn: () => ask(api.GET("/api/frames/{frame_id}", { params: { path: { frame_id: toValue(id) } } })),
  });
}

export function useBodies() {
  return useQuery({ queryKey: ["bodies"], queryFn: () => ask(api.GET("/api/bodies")) });
}

export function useTargets() {
  return useQuery({ queryKey: ["targets"], queryFn: () => ask(api.GET("/api/targets")) });
}

export function useFieldKinds() {
  return useQuery({
    queryKey: ["field-kinds"],
    queryFn: () => ask(api.GET("/api/targets/fields")),
    staleTime: Infinity,
  });
}

export function useScenes() {
  return useQuery({ queryKey: ["scenes"], queryFn: () => ask(api.GET("/api/scenes")) });
}

export function useStepKinds() {
  return useQuery({
    queryKey: ["step-kinds"],
    queryFn: () => ask(api.GET("/api/degradations")),
    staleTime: Infinity,
  });
}

export function useTools() {
  return useQuery({ queryKey: ["tools"], queryFn: () => ask(api.GET("/api/tools")) });
}

export function useReports() {
  return useQuery({ queryKey: ["reports"], queryFn: () => ask(api.GET("/api/reports")) });
}

/** Poll the queue: often while there is work, seldom otherwise. */
export function useQueue(enabled: MaybeRefOrGetter<boolean>) {
  return useQuery({
    queryKey: ["queue"],
    queryFn: () => ask(api.GET("/api/queue")),
    enabled: computed(() => toValue(enabled)),
    refetchInterval: (query) => (query.state.data?.active ? 1000 : 5000),
  });
}

/** Say that everything shown may be out of date. */
export function useRefresh() {
  const client = useQueryClient();
  return () => client.invalidateQueries({ predicate: (query) => query.queryKey[0] !== "session" });
}
