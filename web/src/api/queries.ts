// What the pages read, each under one key, so that a change can say what it makes stale.
import { useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed, type MaybeRefOrGetter, toValue } from "vue";

import { api, ask, askTagged, type Shape } from "./client";

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
export type Treatment = Shape["TreatmentShape"];
export type Setting = Shape["SettingShape"];
/** A step with every field there, as a form needs it. */
export type Step = Required<Omit<Shape["StepShape"], "settings">> & { settings: Setting[] };
export type SettingKind = Shape["SettingKind"];
export type Tool = Shape["ToolOut"];
export type Release = Shape["ReleaseOut"];
export type Method = Shape["MethodOut"];
export type Coverage = Shape["CoverageOut"];
export type Covered = Shape["CoveredOut"];
export type Cost = Shape["CostOut"];
export type Run = Shape["RunOut"];
export type Folder = Shape["FolderOut"];
export type FolderFile = Shape["FolderFileOut"];
export type Scene = Shape["SceneOut"];
export type StepKind = Shape["StepKindOut"];
export type FrameDetail = Shape["FrameDetail"];
export type Finding = Shape["FindingOut"];
export type FieldReading = Shape["FieldReadingOut"];
export type Body = Shape["BodyOut"];
export type Target = Shape["TargetOut"];
export type Audit = Shape["AuditOut"];
export type AuditFinding = Shape["AuditFindingOut"];
export type AuditRule = Shape["RuleOut"];
export type Examination = Shape["ExaminationOut"];
export type PointPair = Shape["PointPairShape"];
export type Answers = Shape["AnswersOut"];
export type Sentence = Shape["SentenceOut"];
export type Standing = Shape["StandingOut"];
export type Median = Shape["MedianOut"];
export type Summary = Shape["SummaryOut"];
export type Trade = Shape["TradeOut"];
export type MeasuredCurve = Shape["MeasuredCurveOut"];
export type Suggestion = Shape["SuggestionOut"];

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

type Readings = MaybeRefOrGetter<string>;
const asked = (readings: Readings) =>
  toValue(readings) === "matched" ? ({ readings: "matched" } as const) : {};

/** Findings in words, and which measures there are readings of. */
export function useAnswers(id: Id, readings: Readings) {
  return useQuery({
    queryKey: computed(() => ["answers", toValue(id), toValue(readings)]),
    queryFn: () =>
      ask(
        api.GET("/api/studies/{study_id}/answers", {
          params: { ...path(toValue(id)).params, query: asked(readings) },
        }),
      ),
  });
}

/** Medians over the places of each role, kind of scene or frame. */
export function useSummary(id: Id, by: MaybeRefOrGetter<string>, readings: Readings) {
  return useQuery({
    queryKey: computed(() => ["summary", toValue(id), toValue(by), toValue(readings)]),
    queryFn: () =>
      ask(
        api.GET("/api/studies/{study_id}/summary", {
          params: {
            ...path(toValue(id)).params,
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
    queryKey: computed(() => ["standings", toValue(id), toValue(measure), toValue(readings)]),
    queryFn: () =>
      ask(
        api.GET("/api/studies/{study_id}/standings", {
          params: {
            ...path(toValue(id)).params,
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
    queryKey: computed(() => ["tradeoff", toValue(id), toValue(x), toValue(y), toValue(readings)]),
    queryFn: () =>
      ask(
        api.GET("/api/studies/{study_id}/tradeoff", {
          params: {
            ...path(toValue(id)).params,
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
    queryKey: computed(() => ["curves", toValue(id), toValue(patch), toValue(readings)]),
    queryFn: () =>
      ask(
        api.GET("/api/studies/{study_id}/curves", {
          params: {
            ...path(toValue(id)).params,
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

export function useReport(id: Id) {
  const key = computed(() => ["report", toValue(id)]);
  return useQuery({
    queryKey: key,
    queryFn: () => askTagged(api.GET("/api/studies/{study_id}/report", path(toValue(id)))),
  });
}

export function useVerdicts(id: Id) {
  const key = computed(() => ["verdicts", toValue(id)]);
  return useQuery({
    queryKey: key,
    queryFn: () => askTagged(api.GET("/api/studies/{study_id}/verdicts", path(toValue(id)))),
  });
}

export function useFrames() {
  return useQuery({ queryKey: ["frames"], queryFn: () => ask(api.GET("/api/frames")) });
}

export function useFrame(id: Id) {
  const key = computed(() => ["frame", toValue(id)]);
  return useQuery({
    queryKey: key,
    queryFn: () =>
      ask(api.GET("/api/frames/{frame_id}", { params: { path: { frame_id: toValue(id) } } })),
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

export function useMethods() {
  return useQuery({
    queryKey: ["methods"],
    queryFn: () => ask(api.GET("/api/methods")),
    staleTime: Infinity,
  });
}

export function usePrograms() {
  return useQuery({ queryKey: ["programs"], queryFn: () => ask(api.GET("/api/programs")) });
}

/** Tools side by side; all of the bench where none is chosen. */
export function useComparison(tools: MaybeRefOrGetter<readonly number[]>) {
  const told = computed(() => toValue(tools).join(","));
  return useQuery({
    queryKey: computed(() => ["comparison", told.value]),
    queryFn: () =>
      ask(api.GET("/api/tools/comparison", { params: { query: { tools: told.value } } })),
  });
}

export function useSavedTreatments() {
  return useQuery({ queryKey: ["treatments"], queryFn: () => ask(api.GET("/api/treatments")) });
}

/** What is made and what is not: read often while something is being made. */
export function useCoverage(id: Id) {
  return useQuery({
    queryKey: computed(() => ["coverage", toValue(id)]),
    queryFn: () => ask(api.GET("/api/studies/{study_id}/coverage", path(toValue(id)))),
    refetchInterval: (query) =>
      query.state.data?.cells.some((c) => c.state === "running" || c.state === "waiting")
        ? 1500
        : false,
  });
}

export function useCosts(id: Id) {
  return useQuery({
    queryKey: computed(() => ["costs", toValue(id)]),
    queryFn: () => ask(api.GET("/api/studies/{study_id}/costs", path(toValue(id)))),
  });
}

export function useCellRuns(contender: Id, frame: Id) {
  const ids = computed(() => ({ contender_id: toValue(contender), frame_id: toValue(frame) }));
  return useQuery({
    queryKey: computed(() => ["runs", ids.value.contender_id, ids.value.frame_id]),
    queryFn: () =>
      ask(
        api.GET("/api/contenders/{contender_id}/outputs/{frame_id}/runs", {
          params: { path: ids.value },
        }),
      ),
  });
}

export function useFolders(id: Id) {
  return useQuery({
    queryKey: computed(() => ["folders", toValue(id)]),
    queryFn: () => ask(api.GET("/api/studies/{study_id}/folders", path(toValue(id)))),
  });
}

/** One folder: read often while its files are being looked at. */
export function useFolder(id: Id) {
  return useQuery({
    queryKey: computed(() => ["folder", toValue(id)]),
    queryFn: () =>
      ask(api.GET("/api/folders/{folder_id}", { params: { path: { folder_id: toValue(id) } } })),
    refetchInterval: (query) => {
      const folder = query.state.data;
      return folder &&
        (folder.looking || folder.all_files.some((f) => f.picture.state === "waiting"))
        ? 1500
        : false;
    },
  });
}

export function useHotFolders(id: Id) {
  return useQuery({
    queryKey: computed(() => ["hot-folders", toValue(id)]),
    queryFn: () => ask(api.GET("/api/studies/{study_id}/hot-folders", path(toValue(id)))),
    refetchInterval: (query) => (query.state.data?.length ? 5000 : false),
  });
}

/** What is not like for like: read often until every output was examined. */
export function useAudit(id: Id) {
  return useQuery({
    queryKey: computed(() => ["audit", toValue(id)]),
    queryFn: () => ask(api.GET("/api/studies/{study_id}/audit", path(toValue(id)))),
    refetchInterval: (query) => {
      const audit = query.state.data;
      return audit && audit.examined < audit.wanted ? 2500 : false;
    },
  });
}

/** One output's line-up and what examining it found: read again until it is there. */
export function useExamination(id: MaybeRefOrGetter<number | undefined>) {
  return useQuery({
    queryKey: computed(() => ["examination", toValue(id)]),
    queryFn: () =>
      ask(
        api.GET("/api/outputs/{output_id}/examination", {
          params: { path: { output_id: toValue(id) ?? 0 } },
        }),
      ),
    enabled: computed(() => toValue(id) !== undefined),
    refetchInterval: (query) => (query.state.data?.ready ? false : 2000),
  });
}

export function useBodiesAtHand(id: Id) {
  return useQuery({
    queryKey: computed(() => ["bodies-at-hand", toValue(id)]),
    queryFn: () => ask(api.GET("/api/studies/{study_id}/bodies", path(toValue(id)))),
  });
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
