// Pictures that the server could not give at once: turned away while others are under way, or
// still being made. A browser asks for none twice, so the page does.

/** Seconds until a picture is asked for again. */
export const PAUSES_S = [1, 2, 4, 8, 15, 15, 15] as const;

const OURS = /^https?:\/\/[^/]+\/(api|reports)\//;

type Shown = Pick<HTMLImageElement, "src" | "isConnected">;

/** What is to be done about each picture that did not come: asked for again, later each time. */
export function patientWithPictures(): (picture: Shown) => void {
  const tries = new WeakMap<Shown, { address: string; times: number }>();
  return (picture) => {
    const address = picture.src;
    const before = tries.get(picture);
    const times = before?.address === address ? before.times : 0;
    const pause = PAUSES_S[times];
    if (pause === undefined || !OURS.test(address)) return;
    tries.set(picture, { address, times: times + 1 });
    setTimeout(() => {
      // Another one may be wanted there by now, or none.
      if (picture.isConnected && picture.src === address) picture.src = address;
    }, 1000 * pause);
  };
}

/** Listen for pictures that do not come; that is heard on the way down only. */
export function askAgainForPictures(): void {
  const failed = patientWithPictures();
  document.addEventListener(
    "error",
    (event) => event.target instanceof HTMLImageElement && failed(event.target),
    true,
  );
}
