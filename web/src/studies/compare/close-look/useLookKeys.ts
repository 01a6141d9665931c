// Every key of the close look, in one table that the help lists as well.
import { onBeforeUnmount, onMounted, type Ref } from "vue";
import { useRouter } from "vue-router";

import { useStudyContext } from "@/studies/shared/useStudyContext";
import type { Look } from "./useLook";

export const KEYS = [
  ["1 to 9", "contender into the chosen pane"],
  ["Tab, or click", "choose a pane"],
  ["hold space", "flick: the next pane's contender in this pane"],
  ["hold U", "flick to the unprocessed frame"],
  ["+ and −, wheel", "magnification"],
  ["arrows, drag", "move; with Shift farther"],
  ["N and P", "next and previous patch"],
  ["M", "brightness as made, exposure matched, exposure and tone matched"],
  ["[ and ]", "fewer and more panes"],
  ["Esc", "back to the wall"],
  ["?", "this list"],
] as const;

const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [1, 0],
  ArrowRight: [-1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

export function useLookKeys(look: Look, help: Ref<boolean>): void {
  const { study, columns } = useStudyContext();
  const router = useRouter();
  let before: string | undefined;

  const plain: Record<string, () => void> = {
    "+": () => look.zoom(1),
    "=": () => look.zoom(1),
    "-": () => look.zoom(-1),
    n: () => look.step(1),
    p: () => look.step(-1),
    m: look.nextMatch,
    "[": look.fewer,
    "]": look.more,
    "?": () => (help.value = !help.value),
    Escape: () => void router.push(`/studies/${study.value.id}/compare`),
    " ": () => (look.flicking.value = true),
    u: flickToUnprocessed,
  };

  function flickToUnprocessed(): void {
    if (before !== undefined) return;
    before = look.letters.value[look.active.value];
    look.show("U");
  }

  function down(event: KeyboardEvent): void {
    const target = event.target as HTMLElement;
    if (event.ctrlKey || event.metaKey || target.matches("select, input")) return;
    if (target.matches("button, a") && (event.key === " " || event.key === "Enter")) return;
    if (help.value && event.key === "Escape") return void (help.value = false);
    const arrow = ARROWS[event.key];
    const number = columns.value[Number(event.key) - 1];
    const act = plain[event.key.length === 1 ? event.key.toLowerCase() : event.key];
    if (arrow)
      look.pan(arrow[0] * (event.shiftKey ? 240 : 40), arrow[1] * (event.shiftKey ? 240 : 40));
    else if (number) look.show(number.letter);
    else if (act) act();
    else return;
    event.preventDefault();
  }

  function up(event: KeyboardEvent): void {
    if (event.key === " ") look.flicking.value = false;
    if (event.key.toLowerCase() === "u" && before !== undefined) {
      look.show(before);
      before = undefined;
    }
  }

  onMounted(() => {
    window.addEventListener("keydown", down);
    window.addEventListener("keyup", up);
  });
  onBeforeUnmount(() => {
    window.removeEventListener("keydown", down);
    window.removeEventListener("keyup", up);
  });
}
