// The state of a close look: frame, patch, panes and view, mirrored in the address.
import { computed, ref, watch } from "vue";
import { useRoute, useRouter } from "vue-router";

import type { Contender, Output, Patch } from "@/api/types";
import type { Size, View } from "@/viewer/geometry";
import { MATCHES, type ViewMatch } from "@/viewer/matching";
import { useView } from "@/viewer/useView";
import { entered } from "@/shared/lib/words";
import { useStudyContext } from "@/studies/shared/useStudyContext";

export interface Pane {
  contender: Contender;
  output: Output | undefined;
}

const MOST_PANES = 4;

export function useLook(paneSize: () => Size) {
  const { study, columns, outputOf } = useStudyContext();
  const route = useRoute();
  const router = useRouter();
  const query = (name: string): string => String(route.query[name] ?? "");
  const firstPatch =
    study.value.patches.find((p) => p.id === Number(query("patch"))) ?? study.value.patches[0];
  const patch = ref<Patch | undefined>(firstPatch);
  const ready = study.value.frames.filter((f) => f.picture.state === "ready");
  const frameId = ref(patch.value?.frame ?? (Number(query("frame")) || (ready[0]?.id ?? 0)));
  const letters = ref(startingLetters());
  const active = ref(0);
  const flicking = ref(false);
  const { view, zoom, zoomTo, pan } = useView(() => frame.value?.picture, paneSize, startingView());
  const match = ref<ViewMatch>(MATCHES.find((m) => m === query("match")) ?? "none");

  const frame = computed(() => study.value.frames.find((f) => f.id === frameId.value));
  const byLetter = computed(() => new Map(columns.value.map((c) => [c.letter, c])));
  const panes = computed<Pane[]>(() =>
    letters.value.flatMap((letter, i) => {
      // While flicking, the active pane shows what its neighbour shows.
      const shown = flicking.value && i === active.value ? (neighbour() ?? letter) : letter;
      const contender = byLetter.value.get(shown);
      return contender ? [{ contender, output: outputOf(contender, frameId.value) }] : [];
    }),
  );

  function startingLetters(): string[] {
    const there = columns.value.map((c) => c.letter);
    const asked = query("panes")
      .split(",")
      .filter((l) => there.includes(l));
    if (asked.length > 1) return asked.slice(0, MOST_PANES);
    const first = asked[0] ?? "U";
    const second = columns.value.find((c) => entered(c) && c.letter !== first)?.letter;
    return second ? [first, second] : [first];
  }

  function startingView(): View {
    const p = patch.value;
    const picture = study.value.frames.find((f) => f.id === frameId.value)?.picture;
    return {
      x: Number(query("x")) || (p ? p.x + p.w / 2 : (picture?.width ?? 0) / 2),
      y: Number(query("y")) || (p ? p.y + p.h / 2 : (picture?.height ?? 0) / 2),
      zoom: Number(query("zoom")) || 1,
    };
  }

  function neighbour(): string | undefined {
    return letters.value[(active.value + 1) % letters.value.length];
  }

  function goTo(to: Patch): void {
    patch.value = to;
    frameId.value = to.frame;
    view.value = { ...view.value, x: to.x + to.w / 2, y: to.y + to.h / 2 };
  }

  function step(direction: 1 | -1): void {
    const all = study.value.patches;
    const at = all.findIndex((p) => p.id === patch.value?.id);
    const next = all[(at + direction + all.length) % all.length];
    if (next) goTo(next);
  }

  function show(letter: string): void {
    if (byLetter.value.has(letter))
      letters.value = letters.value.map((l, i) => (i === active.value ? letter : l));
  }

  function more(): void {
    const unused = columns.value.find((c) => !letters.value.includes(c.letter)) ?? columns.value[0];
    if (unused && letters.value.length < MOST_PANES)
      letters.value = [...letters.value, unused.letter];
  }

  function fewer(): void {
    if (letters.value.length > 1) letters.value = letters.value.slice(0, -1);
    active.value = Math.min(active.value, letters.value.length - 1);
  }

  function setMatch(to: ViewMatch): void {
    match.value = to;
  }

  function nextMatch(): void {
    match.value = MATCHES[(MATCHES.indexOf(match.value) + 1) % MATCHES.length] ?? "none";
  }

  let timer = 0;
  watch([view, letters, patch, frameId, match], () => {
    window.clearTimeout(timer);
    timer = window.setTimeout(() => {
      const { x, y, zoom: z } = view.value;
      const place = patch.value ? { patch: patch.value.id } : { frame: frameId.value };
      const matched = match.value === "none" ? {} : { match: match.value };
      const look = {
        ...place,
        panes: letters.value.join(","),
        zoom: z,
        x: x.toFixed(1),
        y: y.toFixed(1),
        ...matched,
      };
      if (route.path.endsWith("/look")) void router.replace({ query: look as never });
    }, 250);
  });

  return {
    patch,
    frame,
    frameId,
    letters,
    panes,
    active,
    view,
    flicking,
    match,
    setMatch,
    nextMatch,
    goTo,
    step,
    zoom,
    zoomTo,
    pan,
    show,
    more,
    fewer,
  };
}

export type Look = ReturnType<typeof useLook>;
