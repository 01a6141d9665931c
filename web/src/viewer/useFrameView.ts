// Looking at one picture: where, how large, moved by drag, wheel and keys. Kept in the address, so
// that a link shows the same.
import { onBeforeUnmount, onMounted, ref, watch } from "vue";
import { useRoute } from "vue-router";

import { nextStep, type Size, STEPS, type View, wholeView, zoomAt } from "./geometry";

const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

export function useFrameView(picture: () => Size, canvas: () => Size) {
  const route = useRoute();
  const view = ref<View>(fromAddress() ?? { x: 0, y: 0, zoom: 0 });
  const flicking = ref(false);
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

  /** Once the picture and the room for it are known. */
  function settle(): void {
    if (!view.value.zoom && picture().width && canvas().width)
      view.value = wholeView(picture(), canvas());
  }

  function whole(): void {
    view.value = wholeView(picture(), canvas());
  }

  function zoomTo(zoom: number): void {
    view.value = { ...view.value, zoom };
  }

  function zoom(direction: 1 | -1, x = canvas().width / 2, y = canvas().height / 2): void {
    const next = nextStep(view.value.zoom, direction);
    if (STEPS.some((s) => s === next)) view.value = zoomAt(view.value, canvas(), x, y, next);
  }

  function pan(dx: number, dy: number): void {
    const { x, y, zoom: now } = view.value;
    view.value = {
      x: Math.min(Math.max(x - dx / now, 0), picture().width),
      y: Math.min(Math.max(y - dy / now, 0), picture().height),
      zoom: now,
    };
  }

  function keyed(event: KeyboardEvent): void {
    if (event.ctrlKey || event.metaKey) return;
    const arrow = ARROWS[event.key];
    const far = event.shiftKey ? 240 : 40;
    if (arrow) pan(-arrow[0] * far, -arrow[1] * far);
    else if (event.key === "+" || event.key === "=") zoom(1);
    else if (event.key === "-") zoom(-1);
    else if (event.key === "0") whole();
    else if (event.key.toLowerCase() === "t") flicking.value = true;
    else return;
    event.preventDefault();
  }

  function released(event: KeyboardEvent): void {
    if (event.key.toLowerCase() === "t") flicking.value = false;
  }

  watch(view, ({ x, y, zoom: now }) => {
    window.clearTimeout(timer);
    timer = window.setTimeout(() => {
      const at = `${x.toFixed(1)},${y.toFixed(1)},${Number(now.toPrecision(4))}`;
      // Not by the router: it would break off a page change that is still loading.
      window.history.replaceState(window.history.state, "", `${window.location.pathname}?at=${at}`);
    }, 400);
  });
  onMounted(() => window.addEventListener("keyup", released));
  onBeforeUnmount(() => {
    window.clearTimeout(timer);
    window.removeEventListener("keyup", released);
  });

  return { view, flicking, settle, whole, zoomTo, zoom, pan, keyed };
}
