// Folders of outputs: added, their files placed, confirmed and undone.
import { type MaybeRefOrGetter, toValue } from "vue";

import { api, ask, type Shape } from "@/api/client";
import { keys } from "@/api/keys";
import type { FolderFile } from "@/api/types";
import { useAct } from "@/shared/lib/useAct";
import { counted } from "@/shared/lib/words";

export function useFolderChanges(study: MaybeRefOrGetter<number>) {
  const { act, busy } = useAct(() => [["folder"], keys.part(toValue(study), "folders")]);
  const whole = useAct(() => [["folder"], keys.study(toValue(study)), keys.studies]);
  const ofFolder = (id: number) => ({ params: { path: { folder_id: id } } });
  return {
    busy,
    add: (name: string) =>
      act(() =>
        ask(
          api.POST("/api/studies/{study_id}/folders", {
            params: { path: { study_id: toValue(study) } },
            body: { name },
          }),
        ),
      ),
    place: (file: FolderFile, body: Shape["PlaceIn"]) =>
      act(() =>
        ask(
          api.PUT("/api/folder-files/{file_id}", { params: { path: { file_id: file.id } }, body }),
        ),
      ),
    confirm: (folder: number, keepPattern: boolean, files: number) =>
      whole.act(
        () =>
          ask(
            api.POST("/api/folders/{folder_id}/confirm", {
              ...ofFolder(folder),
              body: { keep_pattern: keepPattern },
            }),
          ),
        `${counted(files, "output")} added.`,
      ),
    undo: (folder: number) =>
      whole.act(
        () => ask(api.DELETE("/api/folders/{folder_id}/confirm", ofFolder(folder))),
        "Undone. Every cell holds what it held before.",
      ),
  };
}
