// Where one looks at a picture, and how large: moved, magnified, never beyond its edges.
import { ref } from "vue";

import { nextStep, type Size, STEPS, type View, wholeView, zoomAt } from "./geometry";

export function useView(picture: () => Size | undefined, canvas: () => Size, start?: View) {
  const view = ref<View>(start ?? { x: 0, y: 0, zoom: 0 });

  function whole(): void {
    const size = picture();
    if (size?.width && canvas().width) view.value = wholeView(size, canvas());
  }

  /** Once the picture and the room for it are known. */
  function settle(): void {
    if (!view.value.zoom) whole();
  }

  function zoomTo(zoom: number): void {
    view.value = { ...view.value, zoom };
  }

  /** The next step of magnification; what lies at this canvas point stays there. */
  function zoom(direction: 1 | -1, x = canvas().width / 2, y = canvas().height / 2): void {
    const next = nextStep(view.value.zoom, direction);
    if (STEPS.some((s) => s === next)) view.value = zoomAt(view.value, canvas(), x, y, next);
  }

  /** Move by device pixels, as a hand does that holds the picture. */
  function pan(dx: number, dy: number): void {
    const { x, y, zoom: now } = view.value;
    const { width, height } = picture() ?? { width: 0, height: 0 };
    view.value = {
      x: Math.min(Math.max(x - dx / now, 0), width),
      y: Math.min(Math.max(y - dy / now, 0), height),
      zoom: now,
    };
  }

  return { view, settle, whole, zoomTo, zoom, pan };
}
