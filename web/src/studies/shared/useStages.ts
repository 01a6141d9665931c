// What each stage of a study has and what it lacks.
import { computed, type ComputedRef } from "vue";

import type { Study } from "@/api/types";
import { useAudit } from "@/studies/shared/queries";
import { counted, entered, heldAgainst } from "@/shared/lib/words";

export interface Stage {
  key: string;
  name: string;
  to: string;
  state: string;
  open: boolean;
  /** Something about it is not fair or not trustworthy. */
  unfair: boolean;
}

function setUp(study: Study): [string, boolean] {
  const treatments = study.contenders.filter(entered).length;
  if (!study.frames.length) return ["no frame yet", true];
  const bad = study.frames.filter((f) => f.picture.state === "refused").length;
  if (bad) return [`${counted(bad, "frame")} refused`, true];
  if (!treatments) return ["no contender yet", true];
  const frames = counted(study.frames.length, "frame");
  // The body whose shots the frames are is one of those that are compared.
  if (study.contenders.some(heldAgainst))
    return [`${frames}, ${counted(treatments + 1, "body", "bodies")}`, false];
  return [`${frames}, ${counted(treatments, "contender")}`, false];
}

function bringIn(study: Study, findings: number): [string, boolean] {
  const given = new Set(study.contenders.filter((c) => !entered(c)).map((c) => c.id));
  const outputs = study.outputs.filter((o) => !given.has(o.contender));
  const wanted = (study.contenders.length - given.size) * study.frames.length;
  const refused = study.outputs.filter((o) => o.state === "refused").length;
  if (refused) return [`${counted(refused, "file")} refused`, true];
  if (!wanted) return ["nothing to bring in yet", false];
  if (outputs.length < wanted)
    return [`${wanted - outputs.length} of ${wanted} outputs missing`, true];
  const underWay = outputs.filter((o) => o.state === "waiting" || o.state === "lining up").length;
  if (underWay) return [`lining up, ${underWay} to go`, false];
  return findings ? [`${counted(findings, "finding")} open`, true] : ["like for like", false];
}

function compare(study: Study): [string, boolean] {
  if (!study.patches.length) return ["no patch yet", study.frames.length > 0];
  if (study.readings_there < study.readings_wanted)
    return [`${study.readings_there} of ${study.readings_wanted} readings`, false];
  return [`${counted(study.patches.length, "patch", "patches")} measured`, false];
}

export function useStages(id: () => number, study: ComputedRef<Study>): ComputedRef<Stage[]> {
  const { data: audit } = useAudit(id);
  const unfair = computed(
    () => study.value.outputs.some((o) => o.state === "refused") || (audit.value?.open ?? 0) > 0,
  );
  return computed(() => {
    const s = study.value;
    const stage = (
      key: string,
      name: string,
      path: string,
      [state, open]: [string, boolean],
    ): Stage => ({
      key,
      name,
      to: `/studies/${s.id}/${path}`,
      state,
      open,
      unfair: open && key === "bring-in" && unfair.value,
    });
    return [
      stage("set-up", "Set up", "set-up", setUp(s)),
      stage("bring-in", "Bring in", "bring-in", bringIn(s, audit.value?.open ?? 0)),
      stage("compare", "Compare", "compare", compare(s)),
      stage("judge", "Judge", "judge", [
        s.verdicts ? counted(s.verdicts, "verdict") : "no verdict yet",
        false,
      ]),
      stage("publish", "Publish", "publish", [
        s.editions ? `edition ${s.editions}` : "no edition yet",
        false,
      ]),
    ];
  });
}
