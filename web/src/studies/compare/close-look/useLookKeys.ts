// Every key of the close look, in one table that the help lists as well.
import { onBeforeUnmount, onMounted } from "vue";
import { useRouter } from "vue-router";

import { type KeyWords, useHelp, useKeyWords } from "@/help/useHelp";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import type { Look } from "./useLook";

const WORDS: readonly KeyWords[] = [
  { keys: "1", does: "Show the first contender in the chosen pane; 2 the second, and so on" },
  { keys: "tab", does: "Choose a pane" },
  { keys: "space", does: "While held: the next pane’s contender in this pane" },
  { keys: "u", does: "While held: the unprocessed frame in this pane" },
  { keys: "+", does: "Zoom in; − zooms out" },
  { keys: "arrowleft", does: "Move, like the other arrows; with Shift farther" },
  { keys: "n", does: "Next patch; P the previous one" },
  { keys: "m", does: "Match brightness: as made, exposure, exposure and tone" },
  { keys: "]", does: "More panes; [ fewer" },
  { keys: "esc", does: "Back to the wall" },
];

const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [1, 0],
  ArrowRight: [-1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

export function useLookKeys(look: Look): void {
  useKeyWords(WORDS);
  const help = useHelp();
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
    // The help, or an open choice, has its own keys.
    if (help.open.value || document.querySelector(".v-overlay--active .v-list")) return;
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
