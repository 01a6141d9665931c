// Finding frames by words, kind of scene, camera, and whether they have a truth; grouped by scene
// or newest first.
import { computed, type Ref, ref } from "vue";

import type { Frame, Scene } from "@/api/types";

export interface Group {
  key: string;
  scene: Scene | null;
  frames: Frame[];
}

function textOf(f: Frame): string {
  const facts = f.picture.facts;
  const iso = facts?.iso ? `ISO ${facts.iso}` : "";
  return [f.name, f.file_name, f.scene?.name, facts?.camera, facts?.lens, iso]
    .join(" ")
    .toLowerCase();
}

/** Within a scene a series reads from the clean end: by camera, then ISO. */
function inSeries(a: Frame, b: Frame): number {
  const camera = (f: Frame) => f.picture.facts?.camera ?? "";
  const iso = (f: Frame) => f.picture.facts?.iso ?? 0;
  return camera(a).localeCompare(camera(b)) || iso(a) - iso(b) || a.id - b.id;
}

export function useFrameFinder(all: Ref<readonly Frame[] | undefined>) {
  const words = ref("");
  const kind = ref<Scene["kinds"][number] | "">("");
  const camera = ref("");
  const truth = ref<"" | "with" | "without">("");
  const order = ref<"scene" | "newest">("scene");

  const cameras = computed(() =>
    [
      ...new Set(
        (all.value ?? []).map((f) => f.picture.facts?.camera).filter((c): c is string => !!c),
      ),
    ].sort(),
  );
  const found = computed(() => {
    const wanted = words.value.toLowerCase().split(/\s+/).filter(Boolean);
    return (all.value ?? []).filter(
      (f) =>
        wanted.every((w) => textOf(f).includes(w)) &&
        (!kind.value || f.scene?.kinds.includes(kind.value)) &&
        (!camera.value || f.picture.facts?.camera === camera.value) &&
        (!truth.value || !!f.truth === (truth.value === "with")),
    );
  });
  const groups = computed<Group[]>(() => {
    if (order.value === "newest") return [{ key: "all", scene: null, frames: found.value }];
    const byScene = new Map<string, Group>();
    for (const f of found.value) {
      const key = f.scene?.name ?? "";
      const group = byScene.get(key) ?? { key, scene: f.scene, frames: [] };
      group.frames.push(f);
      byScene.set(key, group);
    }
    const sorted = [...byScene.values()].sort((a, b) =>
      a.key && b.key ? a.key.localeCompare(b.key) : a.key ? -1 : 1,
    );
    return sorted.map((g) => ({ ...g, frames: [...g.frames].sort(inSeries) }));
  });

  return { words, kind, camera, truth, order, cameras, found, groups };
}
