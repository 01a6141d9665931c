// What readers can do with an edition now.
import type { Shape } from "@/api/client";

export type EditionState = "public" | "waiting" | "withdrawn";

export function stateOf(
  edition: Pick<Shape["EditionOut"], "withdrawn" | "public_from">,
  now: Date = new Date(),
): EditionState {
  if (edition.withdrawn) return "withdrawn";
  return edition.public_from && new Date(edition.public_from) > now ? "waiting" : "public";
}

const TIME = /^([01]?\d|2[0-3]):([0-5]\d)$/;

/** Whether a text is a time of day, as 9:05 or 14:00. */
export function isTime(text: string): boolean {
  return TIME.test(text.trim());
}

/** A day and a time of one's own clock as the server takes it; null without a day. */
export function momentOf(day: string | null, time: string): string | null {
  if (!day) return null;
  const told = isTime(time) ? time.trim() : "0:00";
  return new Date(`${day}T${told.padStart(5, "0")}`).toISOString();
}
