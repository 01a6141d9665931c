// What is chosen and told of testing again with another release.
import type { Shape } from "@/api/client";
import { counted } from "@/shared/lib/words";

/** Those that can be taken over as they are: what has to be decided is chosen by hand. */
export function sure(retest: Shape["RetestOut"] | undefined): number[] {
  const fits = (p: Shape["ProposalOut"]) => !p.there && !p.asked.length;
  return retest?.proposals.filter(fits).map((p) => p.contender) ?? [];
}

/** What became of it, in words. */
export function begun({ letters, asked }: Shape["RetestedOut"]): string {
  const made = asked.queued ? `; ${counted(asked.queued, "output")} being made` : "";
  const left = [...asked.by_hand, ...asked.impossible].join(" ");
  return `${letters.join(", ")} added${made}.${left ? ` ${left}` : ""}`;
}
