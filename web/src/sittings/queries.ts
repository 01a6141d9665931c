// What a judge is shown, and what a guest is asked to: by the key in the address alone.
import { useQuery } from "@tanstack/vue-query";

import { api, ask } from "@/api/client";

export const seatKey = (key: string) => ["seat", key] as const;

export function useInvitation(key: string) {
  return useQuery({
    queryKey: ["invitation", key],
    queryFn: () =>
      ask(api.GET("/api/invitations/{link_key}", { params: { path: { link_key: key } } })),
    retry: false,
  });
}

export function useSeat(key: string) {
  return useQuery({
    queryKey: seatKey(key),
    queryFn: () => ask(api.GET("/api/seats/{seat_key}", { params: { path: { seat_key: key } } })),
    retry: false,
  });
}

export const placeOf = (key: string, place: number) =>
  ask(
    api.GET("/api/seats/{seat_key}/places/{place}", {
      params: { path: { seat_key: key, place } },
    }),
  );

/** Where one of its pictures is; nothing of whose it is stands in it. */
export const pictureAt = (key: string, place: number, which: number | "beside"): string =>
  `/api/seats/${key}/places/${place}/${which}.png`;
