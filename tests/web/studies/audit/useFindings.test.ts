import { computed, ref } from "vue";

import type { Audit, Study } from "@/api/types";

const audit = ref<Audit | undefined>();
vi.mock("@/studies/shared/queries", () => ({
  useAudit: () => ({ data: audit, error: ref(null) }),
}));
vi.mock("@/studies/audit/mutations", () => ({ useDecisions: () => ({}) }));
const { useFindings } = await import("@/studies/audit/useFindings");

const contender = (id: number, kind = "treatment") => ({ id, kind });
const study = {
  id: 1,
  contenders: [contender(1, "unprocessed"), contender(2), contender(3)],
} as unknown as Study;
const finding = (of: number, rule: string, weight: string, open = true) => ({
  contender: of,
  rule,
  weight,
  open,
});

function listed(...findings: object[]) {
  audit.value = {
    rules: ["moved", "bits", "exif"].map((id) => ({ id, title: `Rule ${id}` })),
    findings,
  } as unknown as Audit;
  return useFindings(computed(() => study));
}

describe("findings as a checklist", () => {
  it("stand below every contender that was entered, with the rules it keeps", () => {
    const { groups } = listed(finding(2, "bits", "colours"));
    expect(groups.value.map((g) => g.contender.id)).toEqual([2, 3]);
    expect(groups.value[0]!.kept).toEqual(["Rule moved", "Rule exif"]);
    expect(groups.value[1]!.findings).toEqual([]);
    expect(groups.value[1]!.kept).toHaveLength(3);
  });

  it("begin with what is open, then with what weighs most", () => {
    const { groups } = listed(
      finding(2, "exif", "harmless"),
      finding(2, "moved", "spoils", false),
      finding(2, "bits", "colours"),
    );
    expect(groups.value[0]!.findings.map((f) => f.rule)).toEqual([
      "bits",
      "exif",
      "moved",
    ]);
  });

  it("turned round, tell for each rule who does not keep to it", () => {
    const { byRule } = listed(
      finding(2, "exif", "harmless", false),
      finding(2, "bits", "colours"),
      finding(3, "bits", "colours", false),
      finding(3, "moved", "spoils"),
    );
    expect(
      byRule.value.map((g) => [
        g.told.id,
        g.open,
        g.members.map((m) => m.contender.id),
      ]),
    ).toEqual([
      ["moved", 1, [3]],
      ["bits", 1, [2, 3]],
      ["exif", 0, [2]],
    ]);
  });

  it("pass over rules that this version does not know, and are none before they have arrived", () => {
    expect(
      listed(finding(2, "unknown", "spoils")).groups.value[0]!.findings,
    ).toEqual([]);
    audit.value = undefined;
    expect(useFindings(computed(() => study)).groups.value).toEqual([]);
  });
});
