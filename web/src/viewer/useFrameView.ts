// Where a frame's page looks, kept in the address, so that a link shows the same.
import { onBeforeUnmount, watch } from "vue";
import { useRoute } from "vue-router";

import type { Size, View } from "./geometry";
import { useView } from "./useView";

export function useFrameView(picture: () => Size, canvas: () => Size) {
  const route = useRoute();
  const look = useView(picture, canvas, fromAddress());
  let timer = 0;

  function fromAddress(): View | undefined {
    const [x, y, zoom] = String(route.query.at ?? "")
      .split(",")
      .map(Number);
    // The corner of a picture is a place too.
    return zoom && Number.isFinite(x) && Number.isFinite(y)
      ? { x: x as number, y: y as number, zoom }
      : undefined;
  }

  watch(look.view, ({ x, y, zoom }) => {
    window.clearTimeout(timer);
    timer = window.setTimeout(() => {
      const at = `${x.toFixed(1)},${y.toFixed(1)},${Number(zoom.toPrecision(4))}`;
      // Not by the router: it would break off a page change that is still loading.
      window.history.replaceState(window.history.state, "", `${window.location.pathname}?at=${at}`);
    }, 400);
  });
  onBeforeUnmount(() => window.clearTimeout(timer));

  return look;
}
