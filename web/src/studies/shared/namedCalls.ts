// Calls on a patch by those who see the names: better, worse or no difference than the reference.
import { useQuery } from "@tanstack/vue-query";
import { computed, toValue } from "vue";

import { api, ask, type Shape } from "@/api/client";
import { keys, type Id, ofStudy } from "@/api/keys";
import { useAct } from "@/shared/lib/useAct";

export type NamedCall = Shape["NamedCallOut"];
export type NamedAnswer = NamedCall["answer"];

const BRIEF: Record<NamedAnswer, string> = {
  better: "better",
  worse: "worse",
  "no difference": "the same",
};

/** With Alt held: up is better, down worse, Enter no difference. */
export const CALLED_BY: Record<string, NamedAnswer> = {
  ArrowUp: "better",
  ArrowDown: "worse",
  Enter: "no difference",
};

/** What a key with Alt held calls. */
export const calledBy = (
  event: Pick<KeyboardEvent, "altKey" | "ctrlKey" | "metaKey" | "key">,
): NamedAnswer | undefined =>
  event.altKey && !event.ctrlKey && !event.metaKey ? CALLED_BY[event.key] : undefined;

/** What was called of one contender's patch, one's own call first. */
export const callsOf = (
  all: readonly NamedCall[],
  patch: number | undefined,
  contender: number,
): NamedCall[] =>
  all
    .filter((c) => c.patch === patch && c.contender === contender)
    .sort((a, b) => Number(b.mine) - Number(a.mine));

/** As short as they stand under a crop. */
export const callsBrief = (calls: readonly NamedCall[]): string =>
  `called ${calls.map((c) => BRIEF[c.answer]).join(", ")}`;

/** Calls of one contender's patch in words; empty without. */
export function callsTold(calls: readonly NamedCall[]): string {
  const told = calls.map((c) =>
    c.answer === "no difference"
      ? `no difference from ${c.against} (${c.author})`
      : `${c.answer} than ${c.against} (${c.author})`,
  );
  return told.length ? `Called with names seen: ${told.join(", ")}` : "";
}

export function useNamedCalls(id: Id) {
  const key = computed(() => keys.part(toValue(id), "named-calls"));
  const { data } = useQuery({
    queryKey: key,
    queryFn: () => ask(api.GET("/api/studies/{study_id}/named-calls", ofStudy(toValue(id)))),
  });
  const { act } = useAct(() => [key.value, keys.part(toValue(id), "evidence")]);
  const calls = computed<readonly NamedCall[]>(() => data.value ?? []);

  /** Give a call; the same one again takes it back. */
  function give(patch: number, contender: number, answer: NamedAnswer): Promise<unknown> {
    const mine = callsOf(calls.value, patch, contender).find((c) => c.mine);
    return act(() =>
      ask(
        api.PUT("/api/studies/{study_id}/named-calls", {
          ...ofStudy(toValue(id)),
          body: { patch, contender, answer: mine?.answer === answer ? null : answer },
        }),
      ),
    );
  }
  return { calls, give };
}
