// What a page waits for before it shows anything is asked for at once, not one after the other.
import type { QueryClient } from "@tanstack/vue-query";

import { sessionQuery } from "@/api/session";
import { studyQuery } from "@/studies/shared/queries";

/** Ask for what the page at an address of ours needs first; who is not signed in gets nothing. */
export function askFirst(client: QueryClient, path: string): void {
  void client.prefetchQuery(sessionQuery);
  const study = /^\/studies\/(\d+)(\/|$)/.exec(path)?.[1];
  if (study) void client.prefetchQuery(studyQuery(Number(study)));
}
