// The one way in which every viewer is moved and magnified: drag, wheel, arrows, plus and minus.
import { computed, type Ref } from "vue";

import type { Size } from "./geometry";
import { useElementSize } from "./useElementSize";

export interface Moves {
  pan: (dx: number, dy: number) => void;
  zoom: (direction: 1 | -1, x?: number, y?: number) => void;
  whole?: () => void;
  /** A press that did not become a drag. */
  click?: (x: number, y: number, event: PointerEvent) => void;
  /** Whether a drag from here draws instead of moving; then where it has come to. */
  draws?: (x: number, y: number) => boolean;
  drawn?: (x: number, y: number) => void;
  /** Wherever the pointer is. */
  hover?: (x: number, y: number) => void;
}

const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [1, 0],
  ArrowRight: [-1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};
const NEAR = 40;
const FAR = 240; // with Shift
/** Device pixels within which a press is still a click. */
const STILL = 4;
/** CSS pixels of turning for a step: a notch of a wheel is more, the events of a pad are many. */
const NOTCH = 40;
const LINE = 33; // CSS pixels, where a wheel tells lines

export function usePanZoom(ground: Readonly<Ref<HTMLElement | null>>, moves: Moves) {
  const css = useElementSize(ground);
  const ratio = (): number => window.devicePixelRatio || 1;
  const canvas = computed<Size>(() => ({
    width: css.value.width * ratio(),
    height: css.value.height * ratio(),
  }));
  let held: { at: [number, number]; dragged: boolean; draws: boolean } | undefined;
  let turned = 0;

  /** A pointer's place on the canvas, device pixels. */
  function local(event: MouseEvent): [number, number] {
    const box = ground.value?.getBoundingClientRect();
    return [
      (event.clientX - (box?.left ?? 0)) * ratio(),
      (event.clientY - (box?.top ?? 0)) * ratio(),
    ];
  }

  function down(event: PointerEvent): void {
    if (event.button !== 0) return;
    const at = local(event);
    held = { at, dragged: false, draws: moves.draws?.(...at) ?? false };
    ground.value?.setPointerCapture(event.pointerId);
    ground.value?.focus({ preventScroll: true });
  }

  function move(event: PointerEvent): void {
    const now = local(event);
    if (held) {
      const [dx, dy] = [now[0] - held.at[0], now[1] - held.at[1]];
      if (held.dragged || Math.hypot(dx, dy) >= STILL) {
        if (held.draws) moves.drawn?.(...now);
        else moves.pan(dx, dy);
        held = { ...held, at: now, dragged: true };
      }
    }
    moves.hover?.(...now);
  }

  function up(event: PointerEvent): void {
    if (held && !held.dragged) moves.click?.(...local(event), event);
    held = undefined;
  }

  function cancel(): void {
    held = undefined;
  }

  function wheel(event: WheelEvent): void {
    const by = event.deltaY * (event.deltaMode === 0 ? 1 : LINE);
    // A turn the other way begins anew.
    turned = Math.sign(by) === Math.sign(turned) ? turned + by : by;
    if (Math.abs(turned) < NOTCH) return;
    moves.zoom(turned < 0 ? 1 : -1, ...local(event));
    turned = 0;
  }

  /** Whether a key was one of these. */
  function keyed(event: KeyboardEvent): boolean {
    if (event.ctrlKey || event.metaKey) return false;
    const arrow = ARROWS[event.key];
    const by = event.shiftKey ? FAR : NEAR;
    if (arrow) moves.pan(arrow[0] * by, arrow[1] * by);
    else if (event.key === "+" || event.key === "=") moves.zoom(1);
    else if (event.key === "-") moves.zoom(-1);
    else if (event.key === "0" && moves.whole) moves.whole();
    else return false;
    event.preventDefault();
    return true;
  }

  const on = {
    pointerdown: down,
    pointermove: move,
    pointerup: up,
    pointercancel: cancel,
  };
  return { canvas, local, keyed, wheel, on };
}
