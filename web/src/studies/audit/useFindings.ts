// Findings in the order and groups that a checklist needs, and what a reviewer does about them.
import { computed, type ComputedRef } from "vue";

import type { Audit, AuditFinding, AuditRule, Contender, Study } from "@/api/types";
import { useAudit } from "@/studies/shared/queries";
import { entered } from "@/shared/lib/words";
import { useDecisions } from "./mutations";

export interface Listed extends AuditFinding {
  told: AuditRule;
}

export interface Group {
  contender: Contender;
  findings: Listed[];
  /** Rules that were checked and are kept, in words. */
  kept: string[];
}

/** One rule, and every contender that does not keep to it. */
export interface RuleGroup {
  told: AuditRule;
  open: number;
  members: { contender: Contender; finding: Listed }[];
}

const ORDER = { spoils: 0, colours: 1, harmless: 2 } as const;

export function useFindings(study: ComputedRef<Study>) {
  const { data: audit, error } = useAudit(() => study.value.id);
  const changes = useDecisions(() => study.value.id);
  const groups = computed(() => (audit.value ? grouped(study.value, audit.value) : []));

  return {
    audit,
    error,
    groups,
    byRule: computed(() => together(groups.value)),
    ...changes,
  };
}

/** The same findings turned round: rules that most depends on first, each with its contenders. */
function together(groups: Group[]): RuleGroup[] {
  const found = new Map<string, RuleGroup>();
  for (const { contender, findings } of groups)
    for (const finding of findings) {
      const group = found.get(finding.rule) ?? { told: finding.told, open: 0, members: [] };
      group.members.push({ contender, finding });
      group.open += Number(finding.open);
      found.set(finding.rule, group);
    }
  const heaviest = (g: RuleGroup) => Math.min(...g.members.map((m) => ORDER[m.finding.weight]));
  return [...found.values()].sort(
    (a, b) => Number(b.open > 0) - Number(a.open > 0) || heaviest(a) - heaviest(b),
  );
}

function grouped(study: Study, audit: Audit): Group[] {
  const rules = new Map(audit.rules.map((r) => [r.id, r]));
  return study.contenders.filter(entered).map((contender) => {
    const findings = audit.findings
      .filter((f) => f.contender === contender.id)
      .flatMap((f) => {
        const told = rules.get(f.rule);
        return told ? [{ ...f, told }] : [];
      })
      .sort((a, b) => Number(b.open) - Number(a.open) || ORDER[a.weight] - ORDER[b.weight]);
    const broken = new Set(findings.map((f) => f.rule));
    return {
      contender,
      findings,
      kept: audit.rules.filter((r) => !broken.has(r.id)).map((r) => r.title),
    };
  });
}
