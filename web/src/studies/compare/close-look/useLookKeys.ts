// Every key of the close look, in one table that the help lists as well. Letters are contenders,
// so that no command is one; digits could be taken for grades.
import { onBeforeUnmount, onMounted } from "vue";
import { useRouter } from "vue-router";

import { type KeyWords, useHelp, useKeyWords } from "@/help/useHelp";
import { calledBy, type NamedAnswer } from "@/studies/shared/namedCalls";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { GAINED, GAINS, LIFTS, PLANES } from "@/viewer/light";
import { ARRANGEMENTS } from "./arrangements";
import type { Look } from "./useLook";
import type { Taking } from "./useTaking";

const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [1, 0],
  ArrowRight: [-1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};
/** By how much an arrow moves a boundary, of the pane's width. */
const NUDGE = 0.02;

interface Key extends KeyWords {
  on: Record<string, () => void>;
}

/** The next of a row, or the one before; at an end it stays, or goes round. */
export function nextOf<T>(all: readonly T[], now: T, by: 1 | -1, round = false): T {
  const at = all.indexOf(now) + by;
  const held = Math.min(all.length - 1, Math.max(0, at));
  return all[round ? (at + all.length) % all.length : held] ?? now;
}

/** Keys that a closed choice takes for itself; letters are among them. */
const OF_CHOICES = /^([a-z0-9 ]|Enter|Escape|Tab|Home|End|Page.*|Arrow.*)$/i;

/** Whether a key is meant for the field that has the focus. */
function isTyped(target: HTMLElement, key: string): boolean {
  if (!target.matches("select, input, textarea")) return false;
  return target.getAttribute("role") !== "combobox" || OF_CHOICES.test(key);
}

export interface Acts {
  /** Place a remark. */
  remark: () => void;
  /** Show where remarks are, for as long as it is held. */
  hold: (on: boolean) => void;
  /** The next use, or the one before. */
  use: (by: 1 | -1) => void;
  lifeSize: () => void;
  /** Call the chosen pane's patch, names seen. */
  call: (answer: NamedAnswer) => void;
  taking: Pick<Taking, "copyLink" | "copyPicture" | "intoReport" | "wholeScreen">;
}

export function lookKeys(look: Look, acts: Acts, leave: () => void): readonly Key[] {
  const { light, arranged } = look;
  const gain = (by: 1 | -1) => () => {
    if (arranged.arrangement === "difference") arranged.gain = nextOf(GAINS, arranged.gain, by);
    else if (GAINED.includes(light.plane)) light.gain = nextOf(GAINS, light.gain, by);
  };
  const lift = (by: 1 | -1) => () => (light.lift = nextOf<number>(LIFTS, light.lift, by));
  const plane = (by: 1 | -1) => () => (light.plane = nextOf(PLANES, light.plane, by, true));
  const panes = (by: 1 | -1) => () => look.resize(look.letters.value.length + by);
  return [
    {
      keys: "a",
      does: "Show A in the chosen pane; every contender by its letter, U and T too",
      on: {},
    },
    { keys: "tab", does: "Choose a pane", on: {} },
    {
      keys: "space",
      does: "While held: the next pane’s contender in this pane, in place",
      on: { " ": () => (look.flicking.value = true) },
    },
    {
      keys: "+",
      does: "Zoom in; − zooms out",
      on: { "+": () => look.zoom(1), "=": () => look.zoom(1), "-": () => look.zoom(-1) },
    },
    {
      keys: "arrowleft",
      does: "Move, like the other arrows; with Shift farther. In Reveal left and right move the boundary",
      on: {},
    },
    {
      keys: "pagedown",
      does: "Next patch; Page Up the previous one",
      on: { PageDown: () => look.step(1), PageUp: () => look.step(-1) },
    },
    {
      keys: ":",
      does: "Next arrangement: beside, in place, reveal, difference",
      on: {
        ":": () => (arranged.arrangement = nextOf(ARRANGEMENTS, arranged.arrangement, 1, true)),
      },
    },
    { keys: ">", does: "Lift by 1 EV; < lowers", on: { ">": lift(1), "<": lift(-1) } },
    {
      keys: ")",
      does: "Next plane: brightness, colour, a channel, finest octave, noise left; ( the one before",
      on: { ")": plane(1), "(": plane(-1) },
    },
    { keys: "*", does: "Twice the gain; / half of it", on: { "*": gain(1), "/": gain(-1) } },
    {
      keys: ".",
      does: "Match brightness: as made, exposure, exposure and tone",
      on: { ".": look.nextMatch },
    },
    {
      keys: "!",
      does: "Mark what is cut off",
      on: { "!": () => (light.clipped = !light.clipped) },
    },
    {
      keys: ",",
      does: "Magnification of the subject, or of each output’s own pixels",
      on: {
        ",": () => look.setScale(look.scale.value === "subject" ? "own pixels" : "subject"),
      },
    },
    {
      keys: ";",
      does: "Pin the chosen pane: letters go to the others",
      on: { ";": () => look.pin(look.active.value) },
    },
    {
      keys: "%",
      does: "As it is seen in the next use: post, web, print, video; $ the one before",
      on: { "%": () => acts.use(1), $: () => acts.use(-1) },
    },
    { keys: "'", does: "As large as in use, on this screen", on: { "'": acts.lifeSize } },
    {
      keys: "_",
      does: "Measure along a line; a drag in a pane draws it anew",
      on: { _: () => look.setLine(look.line.value === undefined) },
    },
    {
      keys: "&",
      does: "Loupe at 800 %, in every pane, where the pointer is",
      on: { "&": () => look.setLoupe(!look.loupe.value) },
    },
    {
      keys: "enter",
      does: "Add a remark at the pointer’s spot, like a click; the middle without one",
      on: { Enter: acts.remark },
    },
    {
      keys: "#",
      does: "While held: where the remarks are, over the pictures",
      on: { "#": () => acts.hold(true) },
    },
    { keys: "@", does: "Copy the link to this view", on: { "@": acts.taking.copyLink } },
    { keys: '"', does: "Copy this view as a picture", on: { '"': acts.taking.copyPicture } },
    {
      keys: "}",
      does: "This view into the report, as a figure",
      on: { "}": acts.taking.intoReport },
    },
    { keys: "|", does: "Full screen, and back", on: { "|": acts.taking.wholeScreen } },
    {
      keys: "alt+arrowup",
      does: "Call this patch better than the reference, names seen; Alt + Down worse, Alt + Enter no difference",
      on: {},
    },
    { keys: "]", does: "More panes; [ fewer", on: { "]": panes(1), "[": panes(-1) } },
    { keys: "esc", does: "Back to the wall", on: { Escape: leave } },
  ];
}

export function useLookKeys(look: Look, can: Acts): void {
  const help = useHelp();
  const { study } = useStudyContext();
  const router = useRouter();
  const keys = lookKeys(look, can, () => void router.push(`/studies/${study.value.id}/compare`));
  useKeyWords(keys);
  const acts = Object.assign({}, ...keys.map((k) => k.on)) as Record<string, () => void>;

  function arrow(event: KeyboardEvent, [dx, dy]: [number, number]): void {
    if (look.arranged.arrangement === "reveal" && dx && !event.shiftKey) {
      look.divide(look.boundary.value - dx * NUDGE);
      return;
    }
    const far = event.shiftKey ? 240 : 40;
    look.pan(dx * far, dy * far);
  }

  function down(event: KeyboardEvent): void {
    const target = event.target as HTMLElement;
    if (event.ctrlKey || event.metaKey || isTyped(target, event.key)) return;
    if (target.matches("button, a") && (event.key === " " || event.key === "Enter")) return;
    // The help, or an open choice, has its own keys.
    if (help.open.value || document.querySelector(".v-overlay--active :is(.v-list, .v-card)"))
      return;
    const called = calledBy(event);
    if (called) {
      event.preventDefault();
      can.call(called);
      return;
    }
    const moves = ARROWS[event.key];
    const act = acts[event.key];
    if (moves) arrow(event, moves);
    else if (act) act();
    else if (/^[a-z]$/i.test(event.key) && !event.altKey) look.show(event.key.toUpperCase());
    else return;
    event.preventDefault();
  }

  function up(event: KeyboardEvent): void {
    if (event.key === " ") look.flicking.value = false;
    // Which key it is told to be depends on Shift, which may be gone before it.
    can.hold(false);
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
