// What a study lacks next, in the order of the work.
import type { Audit, Study } from "@/api/types";
import { counted, entered } from "@/shared/lib/words";

export interface Step {
  words: string;
  action: string;
  path: string;
}

export function nextStep(study: Study, audit: Audit | undefined): Step {
  const contenders = study.contenders.filter(entered);
  const ids = new Set(contenders.map((c) => c.id));
  const wanted = contenders.length * study.frames.length;
  const there = study.outputs.filter((o) => ids.has(o.contender)).length;
  const step = (words: string, action: string, path: string): Step => ({ words, action, path });
  if (!study.frames.length) return step("The study has no frame yet.", "Add frames", "set-up");
  if (!contenders.length)
    return step("The study has no contender yet.", "Add contenders", "set-up");
  if (there < wanted)
    return step(`${counted(wanted - there, "output")} missing.`, "Bring in outputs", "bring-in");
  if (audit && audit.open)
    return step(
      `${counted(audit.open, "finding")} open: outputs differ in more than the ${study.factor}.`,
      "Decide about findings",
      "audit",
    );
  if (!study.patches.length) return step("Nothing is compared yet.", "Draw patches", "patches");
  if (!study.verdicts) return step("Crops and numbers are on the wall.", "Write verdicts", "judge");
  if (!study.editions)
    return step("The study is ready to be read.", "Publish the report", "publish");
  return step("The study is published.", "See the wall", "compare");
}
