// Under which terms pictures are passed on.
import { useQuery } from "@tanstack/vue-query";

import { api, ask, type Shape } from "@/api/client";
import { useAct } from "@/shared/lib/useAct";
import { counted } from "@/shared/lib/words";

export type Terms = Shape["TermsShape"];
export type Licence = Shape["LicenceOut"];

export const NO_TERMS: Terms = { licence: "", source: "", credit: "" };

/** Whether all is told that a file needs before it is offered. */
export const complete = (terms: Terms): boolean =>
  !!terms.licence && !!terms.source.trim() && !!terms.credit.trim();

/** Licence and credit in one line; what is missing of the terms first. */
export function termsWords(terms: Terms, licences: readonly Licence[]): string {
  const licence = licences.find((l) => l.id === terms.licence)?.title.split(":")[0];
  const missing = (["licence", "source", "credit"] as const).filter((k) => !terms[k].trim());
  if (missing.length === 3) return "licence not told";
  const told = [licence, terms.credit && `credit: ${terms.credit}`];
  const lacks = missing.length ? [`no ${missing.join(", no ")}`] : [];
  return [...lacks, ...told].filter(Boolean).join("; ");
}

/** The terms that all of these share; of what differs, nothing. */
export function shared(all: readonly Terms[]): Terms {
  const one = (k: keyof Terms) =>
    all.every((t) => t[k] === all[0]?.[k]) ? (all[0]?.[k] ?? "") : "";
  return { licence: one("licence"), source: one("source"), credit: one("credit") };
}

export function useLicences() {
  return useQuery({
    queryKey: ["licences"],
    queryFn: () => ask(api.GET("/api/licences")),
    staleTime: Infinity,
  });
}

export function useTermsChanges() {
  const { act, busy } = useAct(() => [["frames"], ["frame"], ["study"]]);
  return {
    busy,
    ofFrames: (frames: number[], terms: Terms) =>
      act(
        async () => {
          await ask(api.POST("/api/frames/terms", { body: { frames, ...terms } }));
          return true;
        },
        `Licence and credit of ${counted(frames.length, "frame")} kept.`,
      ),
    ofContender: (contender: number, body: Terms) =>
      act(() =>
        ask(
          api.PUT("/api/contenders/{contender_id}/terms", {
            params: { path: { contender_id: contender } },
            body,
          }),
        ),
      ),
  };
}
