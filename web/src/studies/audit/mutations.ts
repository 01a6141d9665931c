// Decisions about findings, matching, and points placed by hand.
import { type MaybeRefOrGetter, toValue } from "vue";

import { api, ask, type Shape } from "@/api/client";
import { keys } from "@/api/keys";
import type { AuditFinding, PointPair } from "@/api/types";
import { useAct } from "@/shared/lib/useAct";
import { counted } from "@/shared/lib/words";

export type Decision = "accepted" | "matched" | "made again";

export function useDecisions(study: MaybeRefOrGetter<number>) {
  // A match leads to readings, and making again to runs.
  const { act, busy } = useAct(() => [keys.study(toValue(study))]);
  const ofStudy = () => ({ params: { path: { study_id: toValue(study) } } });
  const ofFinding = (finding: string) => ({
    params: { path: { study_id: toValue(study), finding } },
  });
  return {
    busy,
    decide: (finding: AuditFinding, kind: Decision, reason = "") =>
      act(() =>
        ask(
          api.POST("/api/studies/{study_id}/audit/decisions", {
            ...ofStudy(),
            body: { finding: finding.key, kind, reason, about: finding.about },
          }),
        ),
      ),
    acceptAll: (findings: readonly AuditFinding[], reason: string) =>
      act(
        () =>
          ask(
            api.PUT("/api/studies/{study_id}/audit/decisions", {
              ...ofStudy(),
              body: {
                findings: findings.map((f) => ({ finding: f.key, about: f.about })),
                reason,
              },
            }),
          ),
        `${counted(findings.length, "finding")} accepted.`,
      ),
    reopen: (finding: AuditFinding) =>
      act(() =>
        ask(
          api.DELETE("/api/studies/{study_id}/audit/decisions/{finding}", ofFinding(finding.key)),
        ),
      ),
    match: (body: Shape["MatchingIn"]) =>
      act(() => ask(api.PUT("/api/studies/{study_id}/matching", { ...ofStudy(), body }))),
  };
}

export function usePoints(study: MaybeRefOrGetter<number>) {
  const { act, busy } = useAct(() => [keys.study(toValue(study)), ["examination"]]);
  return {
    busy,
    place: (output: number, pairs: PointPair[]) =>
      act(
        async () => {
          await ask(
            api.PUT("/api/outputs/{output_id}/points", {
              params: { path: { output_id: output } },
              body: { pairs },
            }),
          );
          return true;
        },
        pairs.length ? "Points saved; lining up again." : "Points removed; lining up again.",
      ),
  };
}
