// The state of a close look: frame, patch, panes and view, mirrored in the address.
import { computed, ref, watch } from "vue";
import { onBeforeRouteLeave, useRoute, useRouter } from "vue-router";

import type { Contender, Output, Patch } from "@/api/types";
import { inside, type Size, type View } from "@/viewer/geometry";
import { MATCHES, type ViewMatch } from "@/viewer/matching";
import { useView } from "@/viewer/useView";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { openingLetters, paneFor, resized, roomOf } from "./panes";

export interface Pane {
  contender: Contender;
  output: Output | undefined;
}

/** What a magnification is of: the subject, alike in all panes, or each output's own pixels. */
export type Scale = "subject" | "own pixels";

/** `stage` is the room of all panes, heads included, and `head` what each head takes: device px. */
export function useLook(stage: () => Size, head: number) {
  const { study, columns, outputOf } = useStudyContext();
  const route = useRoute();
  const router = useRouter();
  const query = (name: string): string => String(route.query[name] ?? "");
  const asked = study.value.patches.find((p) => p.id === Number(query("patch")));
  // A frame that the address names without a patch is looked at as a whole.
  const patch = ref<Patch | undefined>(
    asked ?? (query("frame") ? undefined : study.value.patches[0]),
  );
  const ready = computed(() => study.value.frames.filter((f) => f.picture.state === "ready"));
  const frameId = ref(patch.value?.frame ?? (Number(query("frame")) || (ready.value[0]?.id ?? 0)));
  const letters = ref(openingLetters(columns.value, query("panes").split(",")));
  const active = ref(0);
  const pinned = ref<number | undefined>(query("pinned") ? Number(query("pinned")) : undefined);
  const flicking = ref(false);
  const scale = ref<Scale>(query("scale") === "own" ? "own pixels" : "subject");
  const match = ref<ViewMatch>(MATCHES.find((m) => m === query("match")) ?? "none");
  const frame = computed(() => study.value.frames.find((f) => f.id === frameId.value));
  const paneSize = (): Size => roomOf(stage(), letters.value.length, head);
  const looked = useView(() => frame.value?.picture, paneSize, startingView());
  const aim = looked.view;
  /** What is seen: panes show picture up to their edges, wherever one aims. */
  const view = computed(() => {
    const picture = frame.value?.picture;
    return picture ? inside(aim.value, picture, paneSize()) : aim.value;
  });

  const byLetter = computed(() => new Map(columns.value.map((c) => [c.letter, c])));
  const panes = computed<Pane[]>(() =>
    letters.value.flatMap((letter, i) => {
      // While flicking, the chosen pane shows what its neighbour shows.
      const shown = flicking.value && i === active.value ? (neighbour() ?? letter) : letter;
      const contender = byLetter.value.get(shown);
      return contender ? [{ contender, output: outputOf(contender, frameId.value) }] : [];
    }),
  );

  function startingView(): View {
    const p = patch.value;
    const picture = study.value.frames.find((f) => f.id === frameId.value)?.picture;
    const place = (name: string, otherwise: number) =>
      query(name) !== "" && Number.isFinite(Number(query(name))) ? Number(query(name)) : otherwise;
    return {
      x: place("x", p ? p.x + p.w / 2 : (picture?.width ?? 0) / 2),
      y: place("y", p ? p.y + p.h / 2 : (picture?.height ?? 0) / 2),
      zoom: Number(query("zoom")) || 1,
    };
  }

  function neighbour(): string | undefined {
    return letters.value[(active.value + 1) % letters.value.length];
  }

  function goTo(to: Patch): void {
    patch.value = to;
    frameId.value = to.frame;
    aim.value = { ...aim.value, x: to.x + to.w / 2, y: to.y + to.h / 2 };
  }

  /** A frame at its middle, whatever its patches. */
  function goToFrame(id: number): void {
    const picture = study.value.frames.find((f) => f.id === id)?.picture;
    if (!picture) return;
    patch.value = undefined;
    frameId.value = id;
    aim.value = { ...aim.value, x: picture.width / 2, y: picture.height / 2 };
  }

  function step(direction: 1 | -1): void {
    const all = study.value.patches;
    const at = all.findIndex((p) => p.id === patch.value?.id);
    const next = all[(at + direction + all.length) % all.length];
    if (next) goTo(next);
  }

  // One moves on from what is seen.
  function pan(dx: number, dy: number): void {
    aim.value = view.value;
    looked.pan(dx, dy);
  }

  function zoom(direction: 1 | -1, x?: number, y?: number): void {
    aim.value = view.value;
    looked.zoom(direction, x, y);
  }

  function show(letter: string): void {
    if (!byLetter.value.has(letter)) return;
    active.value = paneFor(active.value, pinned.value, letters.value.length);
    letters.value = letters.value.map((l, i) => (i === active.value ? letter : l));
  }

  function resize(count: number): void {
    letters.value = resized(letters.value, count, columns.value);
    active.value = Math.min(active.value, letters.value.length - 1);
    if ((pinned.value ?? 0) >= letters.value.length) pinned.value = undefined;
  }

  function pin(index: number): void {
    pinned.value = pinned.value === index ? undefined : index;
  }

  function setMatch(to: ViewMatch): void {
    match.value = to;
  }

  function setScale(to: Scale): void {
    scale.value = to;
  }

  function nextMatch(): void {
    match.value = MATCHES[(MATCHES.indexOf(match.value) + 1) % MATCHES.length] ?? "none";
  }

  const told = computed(() => {
    const { x, y, zoom: z } = view.value;
    return {
      ...(patch.value ? { patch: patch.value.id } : { frame: frameId.value }),
      panes: letters.value.join(","),
      zoom: z,
      x: x.toFixed(1),
      y: y.toFixed(1),
      ...(match.value === "none" ? {} : { match: match.value }),
      ...(scale.value === "subject" ? {} : { scale: "own" }),
      ...(pinned.value === undefined ? {} : { pinned: pinned.value }),
    };
  });
  let timer = 0;
  let leaving = false;
  watch(
    () => JSON.stringify(told.value),
    () => {
      window.clearTimeout(timer);
      timer = window.setTimeout(() => {
        if (!leaving) void router.replace({ query: told.value as never });
      }, 250);
    },
  );
  // It would break off a page change that is still loading.
  onBeforeRouteLeave(() => {
    leaving = true;
  });

  return {
    ready,
    patch,
    frame,
    frameId,
    letters,
    panes,
    active,
    pinned,
    view,
    flicking,
    match,
    scale,
    nextMatch,
    setMatch,
    setScale,
    goTo,
    goToFrame,
    step,
    zoom,
    zoomTo: looked.zoomTo,
    pan,
    show,
    resize,
    pin,
  };
}

export type Look = ReturnType<typeof useLook>;
