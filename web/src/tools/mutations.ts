// Tools, releases, commands and saved treatments.
import { type MaybeRefOrGetter, toValue } from "vue";

import { api, ask, type Shape } from "@/api/client";
import { keys } from "@/api/keys";
import type { Release, Tool, Treatment } from "@/api/types";
import { useAct } from "@/shared/lib/useAct";
import { counted } from "@/shared/lib/words";

type Headers = () => Record<string, string>;
type Guard = <R>(work: () => Promise<R>) => Promise<R>;

// Facts of tools stand in treatments' titles and in the comparison.
const stale = () => [keys.tools, ["comparison"], ["programs"], ["methods"]];

export function useToolChanges(headers: Headers = () => ({}), guarded: Guard = (work) => work()) {
  const { act, busy } = useAct(stale);
  const ofTool = (id: number) => ({ params: { path: { tool_id: id } } });
  const ofRelease = (id: number) => ({ params: { path: { release_id: id } } });
  return {
    busy,
    save: (id: number | undefined, body: Shape["ToolIn"]) =>
      act(
        () =>
          guarded(() =>
            id
              ? ask(api.PUT("/api/tools/{tool_id}", { ...ofTool(id), body, headers: headers() }))
              : ask(api.POST("/api/tools", { body })),
          ),
        "Tool saved.",
      ),
    remove: (tool: Tool) =>
      act(
        () => ask(api.DELETE("/api/tools/{tool_id}", ofTool(tool.id))).then(() => true),
        `${tool.name} removed.`,
      ),
    saveRelease: (tool: number, release: Release | undefined, body: Shape["ReleaseIn"]) =>
      act(
        () =>
          guarded(() =>
            release
              ? ask(
                  api.PUT("/api/releases/{release_id}", {
                    ...ofRelease(release.id),
                    body,
                    headers: headers(),
                  }),
                )
              : ask(api.POST("/api/tools/{tool_id}/releases", { ...ofTool(tool), body })),
          ),
        "Release saved. Outputs made before keep what they were made with.",
      ),
    removeRelease: (release: Release) =>
      act(
        () => ask(api.DELETE("/api/releases/{release_id}", ofRelease(release.id))),
        "Release removed.",
      ),
    saveCommand: (release: Release, body: Shape["CommandShape"]) =>
      act(
        () =>
          ask(api.PUT("/api/releases/{release_id}/command", { ...ofRelease(release.id), body })),
        "Command saved.",
      ),
    removeCommand: (release: Release) =>
      act(
        () => ask(api.DELETE("/api/releases/{release_id}/command", ofRelease(release.id))),
        "Command removed.",
      ),
  };
}

export function useSavedTreatmentChanges() {
  const { act } = useAct(() => [["treatments"]]);
  return {
    save: (name: string, treatment: Treatment) =>
      act(() => ask(api.POST("/api/treatments", { body: { name, treatment } })), `${name} saved.`),
    remove: (id: number) =>
      act(
        () =>
          ask(
            api.DELETE("/api/treatments/{treatment_id}", {
              params: { path: { treatment_id: id } },
            }),
          ),
        "Saved treatment removed; contenders stay as they are.",
      ),
  };
}

export function useSeries(study: MaybeRefOrGetter<number>) {
  const { act, busy } = useAct(() => [keys.study(toValue(study)), keys.studies]);
  const call = (body: Shape["FamilyIn"]) =>
    ask(
      api.POST("/api/studies/{study_id}/families", {
        params: { path: { study_id: toValue(study) } },
        body,
      }),
    );
  return {
    busy,
    /** What would be added. */
    preview: (body: Shape["FamilyIn"]) => call({ ...body, dry: true }),
    add: (body: Shape["FamilyIn"]) =>
      act(() => call(body), {
        done: (made) => `${counted(made.entered.length, "contender")} added.`,
      }),
  };
}
