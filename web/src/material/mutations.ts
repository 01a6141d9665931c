// Bodies, targets and degradations: what is described, painted and made.
import { api, ask, type Shape } from "@/api/client";
import { keys } from "@/api/keys";
import { useAct } from "@/shared/lib/useAct";
import { counted } from "@/shared/lib/words";

export function useBodyChanges() {
  const { act, busy } = useAct(() => [["bodies"], ["sensor"]]);
  const ofBody = (id: number) => ({ params: { path: { body_id: id } } });
  return {
    busy,
    save: (id: number | undefined, body: Shape["BodyIn"]) =>
      act(() =>
        id
          ? ask(api.PUT("/api/bodies/{body_id}", { ...ofBody(id), body }))
          : ask(api.POST("/api/bodies", { body })),
      ),
    measure: (id: number) =>
      act(
        () => ask(api.POST("/api/bodies/{body_id}/measured", ofBody(id))),
        "Being measured; the queue shows how far it is.",
      ),
    remove: (id: number, name: string) =>
      act(() => ask(api.DELETE("/api/bodies/{body_id}", ofBody(id))), `${name} removed.`),
  };
}

export function useTargetChanges() {
  const { act, busy } = useAct(() => [["targets"], keys.frames, ["frame"]]);
  return {
    busy,
    paint: (body: Shape["TargetIn"]) =>
      act(() => ask(api.POST("/api/targets", { body })), `${body.name} is being painted.`),
    look: () =>
      act(
        () => ask(api.POST("/api/targets/look")),
        "Looking for targets in all frames; the queue shows how far it is.",
      ),
    remove: (id: number, name: string) =>
      act(
        () => ask(api.DELETE("/api/targets/{target_id}", { params: { path: { target_id: id } } })),
        `${name} removed.`,
      ),
  };
}

export function useDegrading() {
  const { act, busy } = useAct(() => [keys.frames]);
  return {
    busy,
    make: (frame: number, body: Shape["DegradeIn"], count: number) =>
      act(
        () =>
          ask(
            api.POST("/api/frames/{frame_id}/degradations", {
              params: { path: { frame_id: frame } },
              body,
            }),
          ),
        `${counted(count, "frame")} being made; the queue shows how far it is.`,
      ),
  };
}
