// Drawing, changing and removing patches. Each makes the study's page stale, and what is read
// there.
import { type MaybeRefOrGetter, toValue } from "vue";

import { addressOf, api, ask, type Shape } from "@/api/client";
import { keys } from "@/api/keys";
import type { Patch } from "@/api/types";
import { useAct } from "@/shared/lib/useAct";
import { useRemoval } from "@/shared/lib/useRemoval";

import type { Box } from "./patches";

export type Role = Shape["NewPatchIn"]["role"];

export function usePatchChanges(study: MaybeRefOrGetter<number>) {
  const stale = () => [keys.page(toValue(study)), keys.part(toValue(study), "readings")];
  const { act } = useAct(stale);
  const removal = useRemoval(stale);
  const ofStudy = () => ({ path: { study_id: toValue(study) } });

  return {
    draw: (frame: number, role: Role, { x, y, w, h }: Box, name = "") =>
      act(() =>
        ask(
          api.POST("/api/studies/{study_id}/patches", {
            params: ofStudy(),
            body: { x, y, w, h, frame, role, name },
          }),
        ),
      ),
    change: (id: number, version: string, body: Shape["PatchIn"]) =>
      act(() =>
        ask(
          api.PUT("/api/patches/{patch_id}", {
            params: { path: { patch_id: id } },
            body,
            headers: { "If-Match": version },
          }),
        ),
      ),
    remove: (patch: Patch) =>
      removal.remove(
        `patch ${patch.id}`,
        `${patch.name} removed.`,
        addressOf("/api/patches/{patch_id}", { patch_id: patch.id }),
      ),
    /** One over each field of the target that a frame shows. */
    drawOfTarget: (frame: number) =>
      act(() =>
        ask(
          api.POST("/api/studies/{study_id}/frames/{frame_id}/target-patches", {
            params: { path: { study_id: toValue(study), frame_id: frame } },
          }),
        ),
      ),
    /** The same patch on the other frames of its scene. */
    spread: (patch: Patch) =>
      act(
        () =>
          ask(
            api.POST("/api/patches/{patch_id}/spread", {
              params: { path: { patch_id: patch.id } },
            }),
          ),
        `${patch.name} added to the other frames of its scene.`,
      ),
  };
}

export function useAskSuggestions() {
  const { act } = useAct(() => [["suggestions"]]);
  return (frame: number) =>
    act(() =>
      ask(
        api.POST("/api/frames/{frame_id}/suggestions", { params: { path: { frame_id: frame } } }),
      ),
    );
}
