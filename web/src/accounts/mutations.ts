// What the pages of accounts change, and what that makes stale.
import { useMutation, useQueryClient } from "@tanstack/vue-query";

import { api, ask, type Shape } from "@/api/client";
import { useNotices } from "@/shared/lib/useNotices";
import type { Role } from "./queries";

interface Change<In, Out> {
  stale: readonly string[];
  done?: string;
  work: (told: In) => Promise<Out>;
}

/** A change that says when it is done, and warns when it is not. */
function useChange<In, Out>({ stale, done, work }: Change<In, Out>) {
  const client = useQueryClient();
  const notices = useNotices();
  return useMutation({
    mutationFn: work,
    onSuccess: async () => {
      await Promise.all(stale.map((key) => client.invalidateQueries({ queryKey: [key] })));
      if (done) notices.tell(done);
    },
    onError: (error) => notices.warn(error),
  });
}

export const useInvite = () =>
  useChange({
    stale: ["trail"],
    work: (body: { role: Role; mail: string }) => ask(api.POST("/api/invitations", { body })),
  });

export const useOfferPassword = () =>
  useChange({
    stale: ["trail"],
    work: (id: number) =>
      ask(
        api.POST("/api/people/{user_id}/new-password", {
          params: { path: { user_id: id } },
          body: { mail: "" },
        }),
      ),
  });

export const useChangeRole = () =>
  useChange({
    stale: ["people", "trail", "session"],
    done: "Role changed.",
    work: ({ id, role }: { id: number; role: Role }) =>
      ask(
        api.PATCH("/api/people/{user_id}", { params: { path: { user_id: id } }, body: { role } }),
      ),
  });

export const useRemovePerson = () =>
  useChange({
    stale: ["people", "trail"],
    done: "Removed from the bench.",
    work: (id: number) =>
      ask(api.DELETE("/api/people/{user_id}", { params: { path: { user_id: id } } })),
  });

export const useChangePassword = () =>
  useChange({
    stale: ["sessions", "session"],
    done: "Password changed. All other sessions have ended.",
    work: (body: { old: string; new: string }) => ask(api.PUT("/api/password", { body })),
  });

export const useEndSession = () =>
  useChange({
    stale: ["sessions"],
    done: "Session ended.",
    work: (id: string) =>
      ask(api.DELETE("/api/sessions/{session_id}", { params: { path: { session_id: id } } })),
  });

export const useAddToken = () =>
  useChange({
    stale: ["tokens", "trail"],
    work: (body: Shape["TokenIn"]) => ask(api.POST("/api/tokens", { body })),
  });

export const useRemoveToken = () =>
  useChange({
    stale: ["tokens", "trail"],
    done: "Token removed.",
    work: (id: number) =>
      ask(api.DELETE("/api/tokens/{token_id}", { params: { path: { token_id: id } } })),
  });

export const useAddHook = () =>
  useChange({
    stale: ["hooks", "trail"],
    work: (body: Shape["HookIn"]) => ask(api.POST("/api/hooks", { body })),
  });

export const useTryHook = () =>
  useChange({
    stale: ["hooks"],
    work: (id: number) =>
      ask(api.POST("/api/hooks/{hook_id}", { params: { path: { hook_id: id } } })),
  });

export const useRemoveHook = () =>
  useChange({
    stale: ["hooks", "trail"],
    done: "Program removed.",
    work: (id: number) =>
      ask(api.DELETE("/api/hooks/{hook_id}", { params: { path: { hook_id: id } } })),
  });

export function useSignOut() {
  return useMutation({
    mutationFn: () => ask(api.DELETE("/api/session")),
    onSuccess: () => window.location.assign("/"),
  });
}
