// A folder's files on the board of cells: where each is, and moving it by hand.
import { computed, type ComputedRef } from "vue";

import type { Contender, Folder, FolderFile, Frame } from "@/api/types";
import { useFolderChanges } from "./mutations";

export type Use = FolderFile["use"];

/** How sure a proposal is, in a word. */
export function sureness(file: FolderFile): "by hand" | "sure" | "likely" | "unsure" {
  if (file.by_hand) return "by hand";
  if (file.confidence >= 0.8) return "sure";
  return file.confidence >= 0.5 ? "likely" : "unsure";
}

export function useFolderBoard(
  study: () => number,
  folder: ComputedRef<Folder | undefined>,
  frames: ComputedRef<Frame[]>,
  contenders: ComputedRef<Contender[]>,
) {
  const changes = useFolderChanges(study);
  const files = computed(() => folder.value?.all_files ?? []);
  const isPlaced = (f: FolderFile): boolean =>
    f.use !== "none" && f.frame !== null && f.contender !== null;
  const placed = computed(() => files.value.filter(isPlaced));
  const cells = computed(() => {
    const by = new Map<string, FolderFile[]>();
    for (const f of placed.value) {
      const key = `${f.contender}/${f.frame}`;
      by.set(key, [...(by.get(key) ?? []), f]);
    }
    return by;
  });
  const without = computed(() => files.value.filter((f) => f.use !== "none" && !isPlaced(f)));
  const aside = computed(() => files.value.filter((f) => f.use === "none"));
  const unsure = computed(() => placed.value.filter((f) => sureness(f) === "unsure").length);

  function place(
    file: FolderFile,
    to: { use?: Use; frame?: number | null; contender?: number | null },
  ): Promise<unknown> {
    const body = {
      use: file.use === "none" ? ("export" as const) : file.use,
      frame: file.frame,
      contender: file.contender,
      ...to,
    };
    return changes.place(file, body);
  }

  /** A file moved by keyboard: so many contenders down and frames across. */
  function step(file: FolderFile, down: number, across: number): void {
    const row = contenders.value.findIndex((c) => c.id === file.contender) + down;
    const column = frames.value.findIndex((f) => f.id === file.frame) + across;
    const contender = contenders.value[Math.max(0, row)];
    const frame = frames.value[Math.max(0, column)];
    if (contender && frame) void place(file, { contender: contender.id, frame: frame.id });
  }

  return { changes, files, placed, cells, without, aside, unsure, place, step };
}
