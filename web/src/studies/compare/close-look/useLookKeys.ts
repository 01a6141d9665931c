// Every key of the close look, in one table that the help lists as well. Letters are contenders,
// so that no command is one.
import { onBeforeUnmount, onMounted } from "vue";
import { useRouter } from "vue-router";

import { type KeyWords, useHelp, useKeyWords } from "@/help/useHelp";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import type { Look } from "./useLook";

const WORDS: readonly KeyWords[] = [
  { keys: "a", does: "Show A in the chosen pane; every contender by its letter, U and T too" },
  { keys: "tab", does: "Choose a pane" },
  { keys: "space", does: "While held: the next pane’s contender in this pane" },
  { keys: "+", does: "Zoom in; − zooms out" },
  { keys: "arrowleft", does: "Move, like the other arrows; with Shift farther" },
  { keys: "pagedown", does: "Next patch; Page Up the previous one" },
  { keys: ".", does: "Match brightness: as made, exposure, exposure and tone" },
  { keys: ",", does: "Magnification of the subject, or of each output’s own pixels" },
  { keys: ";", does: "Pin the chosen pane: letters go to the others" },
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
  const { study } = useStudyContext();
  const router = useRouter();

  const plain: Record<string, () => void> = {
    "+": () => look.zoom(1),
    "=": () => look.zoom(1),
    "-": () => look.zoom(-1),
    PageDown: () => look.step(1),
    PageUp: () => look.step(-1),
    ".": look.nextMatch,
    ",": () => look.setScale(look.scale.value === "subject" ? "own pixels" : "subject"),
    ";": () => look.pin(look.active.value),
    "[": () => look.resize(look.letters.value.length - 1),
    "]": () => look.resize(look.letters.value.length + 1),
    Escape: () => void router.push(`/studies/${study.value.id}/compare`),
    " ": () => (look.flicking.value = true),
  };

  function down(event: KeyboardEvent): void {
    const target = event.target as HTMLElement;
    if (event.ctrlKey || event.metaKey || event.altKey || target.matches("select, input")) return;
    if (target.matches("button, a") && (event.key === " " || event.key === "Enter")) return;
    // The help, or an open choice, has its own keys.
    if (help.open.value || document.querySelector(".v-overlay--active .v-list")) return;
    const arrow = ARROWS[event.key];
    const act = plain[event.key];
    const far = event.shiftKey ? 240 : 40;
    if (arrow) look.pan(arrow[0] * far, arrow[1] * far);
    else if (act) act();
    else if (/^[a-z]$/i.test(event.key)) look.show(event.key.toUpperCase());
    else return;
    event.preventDefault();
  }

  function up(event: KeyboardEvent): void {
    if (event.key === " ") look.flicking.value = false;
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
