// Naming, placing and removing frames; scenes; truths.
import { addressOf, api, ask, upload } from "@/api/client";
import { keys } from "@/api/keys";
import type { Frame, Scene } from "@/api/types";
import { useAct } from "@/shared/lib/useAct";
import { useRemoval } from "@/shared/lib/useRemoval";

// A frame stands in lists, on its own page and in studies.
const stale = () => [keys.frames, ["frame"], ["scenes"], ["study"], keys.studies];
const ofFrame = (id: number) => ({ params: { path: { frame_id: id } } });
const BEING_MADE = "Being made; the queue shows how far it is.";

export function useFrameChanges() {
  const { act, busy } = useAct(stale);
  const removal = useRemoval(stale);
  return {
    busy,
    rename: (id: number, name: string) =>
      act(() => ask(api.PATCH("/api/frames/{frame_id}", { ...ofFrame(id), body: { name } }))),
    place: (id: number, scene: number | null) =>
      act(() => ask(api.PATCH("/api/frames/{frame_id}", { ...ofFrame(id), body: { scene } }))),
    tellKind: (id: number, kind: Frame["kind"]) =>
      act(() => ask(api.PATCH("/api/frames/{frame_id}", { ...ofFrame(id), body: { kind } }))),
    remove: (id: number, then: () => Promise<unknown>) =>
      act(async () => {
        await ask(api.DELETE("/api/frames/{frame_id}", ofFrame(id)));
        await then();
        return true;
      }, "Frame removed."),
    lookForTarget: (id: number) =>
      act(
        () => ask(api.POST("/api/frames/{frame_id}/target", ofFrame(id))),
        "Looking for a target; the queue shows how far it is.",
      ),
    removeTruth: (frame: Frame) =>
      removal.remove(
        `truth ${frame.id}`,
        `Truth of ${frame.name} removed; the file stays on the bench.`,
        addressOf("/api/frames/{frame_id}/truth", { frame_id: frame.id }),
      ),
    makeTwins: (base: number, frames: number[]) =>
      act(() => ask(api.POST("/api/twins", { body: { base, frames } })), BEING_MADE),
    makeBurst: (frames: number[]) =>
      act(() => ask(api.POST("/api/bursts", { body: { frames } })), BEING_MADE),
  };
}

export function useSceneChanges() {
  const { act, busy } = useAct(stale);
  const ofScene = (id: number) => ({ params: { path: { scene_id: id } } });
  return {
    busy,
    save: (id: number | undefined, body: { name: string; kinds: Scene["kinds"] }) =>
      act(() =>
        id
          ? ask(api.PUT("/api/scenes/{scene_id}", { ...ofScene(id), body }))
          : ask(api.POST("/api/scenes", { body })),
      ),
    setLandmarks: (id: number, file: File) =>
      act(() => upload<Scene>(`/api/scenes/${id}/known`, file)),
    removeLandmarks: (id: number) =>
      act(() => ask(api.DELETE("/api/scenes/{scene_id}/known", ofScene(id)))),
  };
}

/** Ask for a picture in a form that every tool takes; true once it is there. */
export async function askForExport(picture: number, ending: string): Promise<boolean> {
  const params = { path: { picture_id: picture, ending } };
  return (await ask(api.POST("/api/pictures/{picture_id}/as/{ending}", { params }))).ready;
}
