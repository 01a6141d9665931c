// How large pictures stand on a judge's screen, which of them is seen, and where.

export interface Room {
  width: number;
  height: number;
}

export interface Laid {
  /** CSS px of each picture. */
  width: number;
  height: number;
  columns: number;
  /** Whether there is room for one at a time only. */
  inTurn: boolean;
  /** Whether pixels stay pixels; one too large is shrunk. */
  whole: boolean;
}

export const GAP = 2; // CSS px
const MOST_ACROSS = 3;

/** How `count` pictures of a size are laid into a room, CSS px, on a screen of a pixel ratio. */
export function laid(picture: Room, count: number, room: Room, ratio: number): Laid {
  const columns = Math.min(count, MOST_ACROSS);
  const rows = Math.ceil(count / columns);
  const fitted = (across: number, down: number): number =>
    Math.min(
      ((room.width - (across - 1) * GAP) * ratio) / (across * picture.width),
      ((room.height - (down - 1) * GAP) * ratio) / (down * picture.height),
    );
  // More than two are compared at a glance, so they are shrunk before they are hidden.
  const timesOf = (fit: number): number =>
    fit >= 1 ? Math.min(Math.floor(fit), Math.max(1, Math.round(ratio))) : fit;
  const [together, alone] = [fitted(columns, rows), fitted(1, 1)];
  // On a dense small screen two beside each other would be too small to be judged.
  const inTurn = count === 2 && (together < 1 || timesOf(alone) >= 2 * timesOf(together));
  const fit = inTurn ? alone : together;
  const times = timesOf(fit);
  return {
    width: (picture.width * times) / ratio,
    height: (picture.height * times) / ratio,
    columns: inTurn ? 1 : columns,
    inTurn,
    whole: fit >= 1,
  };
}

export type Which = number | "beside";

/** In which column a picture is seen, from 1; none where it is hidden. `held` is what a held key
 * shows in the first one's place, `along` where the one for comparison stands without that. */
export function columnOf(
  which: Which,
  held: Which | undefined,
  front: number,
  { inTurn, columns }: Laid,
  along?: number,
): number | undefined {
  if (held !== undefined) return which === held ? 1 : undefined;
  if (which === "beside") return inTurn ? undefined : along;
  if (inTurn) return which === front ? 1 : undefined;
  return (which % columns) + 1;
}

/** Minutes in words. */
export function aboutMinutes(seconds: number): string {
  return seconds < 50 ? "under a minute" : `about ${Math.round(seconds / 60)} min`;
}
