// What the pages of this area read.
import { useQuery } from "@tanstack/vue-query";
import { computed, toValue } from "vue";

import { api, ask } from "@/api/client";
import { keys, type Id, ofStudy } from "@/api/keys";

export function useFolders(id: Id) {
  return useQuery({
    queryKey: computed(() => keys.part(toValue(id), "folders")),
    queryFn: () => ask(api.GET("/api/studies/{study_id}/folders", ofStudy(toValue(id)))),
  });
}

/** One folder: read often while its files are being looked at. */
export function useFolder(id: Id) {
  return useQuery({
    queryKey: computed(() => ["folder", toValue(id)]),
    queryFn: () =>
      ask(api.GET("/api/folders/{folder_id}", { params: { path: { folder_id: toValue(id) } } })),
    refetchInterval: (query) => {
      const folder = query.state.data;
      return folder &&
        (folder.looking || folder.all_files.some((f) => f.picture.state === "waiting"))
        ? 1500
        : false;
    },
  });
}
