// Taking the view along: its address, its picture, the whole screen.
import { save } from "@/shared/lib/saving";
import { useNotices } from "@/shared/lib/useNotices";
import type { Taken } from "@/studies/shared/figures/figures";

import { type ShownPane, viewPicture } from "./viewPicture";

export function useTaking(
  title: () => string,
  shown: () => ShownPane[],
  figure: () => Taken | string | undefined,
  take: (figure: Taken) => Promise<unknown>,
) {
  const notices = useNotices();
  const made = () => viewPicture(title(), shown());

  /** What a browser does not let a page do is said. */
  async function tried(work: () => Promise<unknown>, done = ""): Promise<void> {
    try {
      await work();
      if (done) notices.tell(done);
    } catch (error) {
      notices.warn(error);
    }
  }

  return {
    copyLink: () =>
      tried(() => navigator.clipboard.writeText(window.location.href), "Link copied."),
    copyPicture: () =>
      tried(
        () => navigator.clipboard.write([new ClipboardItem({ "image/png": made() })]),
        "Picture copied.",
      ),
    savePicture: () => tried(async () => save(await made(), `${title()}.png`)),
    /** As a figure; what can be none is said. */
    intoReport: () =>
      tried(async () => {
        const made = figure();
        if (typeof made === "string") throw new Error(made);
        if (made) await take(made);
      }),
    wholeScreen: () =>
      tried(() =>
        document.fullscreenElement
          ? document.exitFullscreen()
          : document.documentElement.requestFullscreen(),
      ),
  };
}

export type Taking = ReturnType<typeof useTaking>;
