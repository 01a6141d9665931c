// What the pages of this area read.
import { useQuery } from "@tanstack/vue-query";
import { computed, toValue } from "vue";

import { api, ask } from "@/api/client";
import { type Id } from "@/api/keys";
import { everyPage } from "@/api/pages";
import type { Scene } from "@/api/types";

/** As the server's material.models.SceneKind has them; the types say so if they part. */
export const SCENE_KINDS = [
  "fine texture",
  "hard edges",
  "plain areas",
  "deep shadow",
  "highlights",
  "lights at night",
  "out of focus",
  "moving",
  "face",
] as const satisfies Scene["kinds"];

export function useFrames() {
  return useQuery({
    queryKey: ["frames"],
    queryFn: () =>
      everyPage((before) => ask(api.GET("/api/frames", { params: { query: { before } } }))),
  });
}

export function useFrame(id: Id) {
  const key = computed(() => ["frame", toValue(id)]);
  return useQuery({
    queryKey: key,
    queryFn: () =>
      ask(api.GET("/api/frames/{frame_id}", { params: { path: { frame_id: toValue(id) } } })),
  });
}

export function useScenes() {
  return useQuery({ queryKey: ["scenes"], queryFn: () => ask(api.GET("/api/scenes")) });
}
