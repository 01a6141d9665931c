// What the pages of accounts read.
import { queryOptions, useInfiniteQuery } from "@tanstack/vue-query";

import { api, ask, type Shape } from "@/api/client";
import { underWay } from "./hooks";

export type Member = Shape["MemberOut"];
export type Token = Shape["TokenOut"];
export type Role = NonNullable<Member["role"]>;
export const ROLES: readonly Role[] = ["viewer", "editor", "owner"];
const OLDER = 200; // as many as the server tells at once

export const people = queryOptions({
  queryKey: ["people"],
  queryFn: () => ask(api.GET("/api/people")),
});
export const sessions = queryOptions({
  queryKey: ["sessions"],
  queryFn: () => ask(api.GET("/api/sessions")),
});
export const tokens = queryOptions({
  queryKey: ["tokens"],
  queryFn: () => ask(api.GET("/api/tokens")),
});
export const storage = queryOptions({
  queryKey: ["storage"],
  queryFn: () => ask(api.GET("/api/storage")),
});
export const hooks = queryOptions({
  queryKey: ["hooks"],
  queryFn: () => ask(api.GET("/api/hooks")),
  // One that is being told has its answer in a moment.
  refetchInterval: (query) =>
    query.state.data?.some((hook) => underWay(hook.tellings[0])) ? 1000 : false,
});

/** The trail, the newest first, page after page. */
export function useTrail() {
  return useInfiniteQuery({
    queryKey: ["trail"],
    initialPageParam: undefined as number | undefined,
    queryFn: ({ pageParam }) =>
      ask(api.GET("/api/trail", { params: { query: { before: pageParam } } })),
    getNextPageParam: (last) => (last.length < OLDER ? undefined : last[last.length - 1]?.id),
  });
}
