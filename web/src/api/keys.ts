// Under which key each thing that is read is kept. What belongs to a study lies below its own key,
// so that all of it, or one part, can be called stale.
import type { MaybeRefOrGetter } from "vue";

export type Id = MaybeRefOrGetter<number>;
export type Key = readonly unknown[];

export const keys = {
  session: ["session"],
  studies: ["studies"],
  frames: ["frames"],
  tools: ["tools"],
  queue: ["queue"],
  uses: ["uses"],
  /** All that is read of a study. */
  study: (id: number): Key => ["study", id],
  /** What its stages share: frames, contenders, outputs, patches. */
  page: (id: number): Key => ["study", id, "page"],
  part: (id: number, part: string, ...of: unknown[]): Key => ["study", id, part, ...of],
} as const;

/** The address's part that names a study. */
export const ofStudy = (id: number) => ({ params: { path: { study_id: id } } });
