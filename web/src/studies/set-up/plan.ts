// What a bench lacks of the plan by which a study was begun.
import type { Shape } from "@/api/client";

export interface Gap {
  says: string;
  names: string[];
}

const LACKING = "Not on this bench. Bring these frames in under Frames, then look again:";
const TRUTHS = "Here with another truth than the plan has, or with none:";
const MEASURES = "Measures of another version than the plan has; their readings may differ:";

export function gapsOf(plan: Shape["StudyPlanOut"]): Gap[] {
  const told = [
    { says: LACKING, names: plan.missing },
    { says: TRUTHS, names: plan.other_truth },
    { says: MEASURES, names: plan.other_measures },
  ];
  return told.filter((gap) => gap.names.length);
}
