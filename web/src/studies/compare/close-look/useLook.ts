// The state of a close look: frame, patch, panes, light and view, mirrored in the address.
import { computed, reactive, ref } from "vue";
import { useRoute } from "vue-router";

import type { Contender, Output, Patch } from "@/api/types";
import { inside, type Size, type View } from "@/viewer/geometry";
import { MATCHES } from "@/viewer/matching";
import { held, type Line, lineFrom, lineTold } from "@/viewer/profile";
import { useView } from "@/viewer/useView";
import { patchAt } from "@/studies/shared/remarks/remarks";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { lightFrom, lightTold } from "@/studies/compare/lights";
import { arrangedFrom, arrangedTold, isStacked } from "./arrangements";
import { openingLetters, paneFor, resized, roomOf } from "./panes";
import { useLookAddress } from "./useLookAddress";

export interface Pane {
  contender: Contender;
  output: Output | undefined;
}

/** What a magnification is of: the subject, alike in all panes, or each output's own pixels. */
export type Scale = "subject" | "own pixels";

/** `stage` is the room of all panes, `rest` what head, margin and foot of each take: device px. */
export function useLook(stage: () => Size, rest: () => number) {
  const { study, columns, outputOf } = useStudyContext();
  const route = useRoute();
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
  /** Where a boundary lies across the pane: 0 left, 1 right. */
  const boundary = ref(0.5);
  const scale = ref<Scale>(query("scale") === "own" ? "own pixels" : "subject");
  const light = reactive(lightFrom(query));
  /** The use in which outputs are seen, by its id; empty as made. */
  const use = ref(query("use"));
  /** What is measured along, in every pane. */
  const line = ref<Line | undefined>(lineFrom(query("line")));
  const loupe = ref(query("loupe") === "on");
  const arranged = reactive(arrangedFrom(query, columns.value));
  const frame = computed(() => study.value.frames.find((f) => f.id === frameId.value));
  const inOneRoom = computed(() => isStacked(arranged.arrangement));
  const paneSize = (): Size => roomOf(stage(), inOneRoom.value ? 1 : letters.value.length, rest());
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
      const turned = flicking.value && i === active.value && !inOneRoom.value;
      return paneOf((turned ? neighbour() : undefined) ?? letter) ?? [];
    }),
  );
  /** Of panes that lie over each other, the one in sight. */
  const inSight = computed(() =>
    flicking.value ? (active.value + 1) % letters.value.length : active.value,
  );
  const against = computed(() => paneOf(arranged.against));

  function paneOf(letter: string): Pane | undefined {
    const contender = byLetter.value.get(letter);
    return contender && { contender, output: outputOf(contender, frameId.value) };
  }

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

  /** A place of a frame into the middle, with the patch that it may lie on. */
  function goToSpot(id: number, x: number, y: number): void {
    patch.value = patchAt(study.value.patches, { frame: id, x, y });
    frameId.value = id;
    aim.value = { ...aim.value, x, y };
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
    const at = letters.value.indexOf(letter);
    // In one room a letter that is there comes into sight.
    if (inOneRoom.value && at >= 0) active.value = at;
    else put(letter);
  }

  function put(letter: string): void {
    active.value = paneFor(active.value, pinned.value, letters.value.length);
    letters.value = letters.value.map((l, i) => (i === active.value ? letter : l));
  }

  /** The next pane, round about: into sight where all are in one room. */
  function turn(): void {
    active.value = (active.value + 1) % letters.value.length;
  }

  function resize(count: number): void {
    letters.value = resized(letters.value, count, columns.value);
    active.value = Math.min(active.value, letters.value.length - 1);
    if ((pinned.value ?? 0) >= letters.value.length) pinned.value = undefined;
  }

  function pin(index: number): void {
    pinned.value = pinned.value === index ? undefined : index;
  }

  function choose(index: number): void {
    active.value = index;
  }

  /** The boundary to a share of the pane's width. */
  function divide(share: number): void {
    boundary.value = Math.min(1, Math.max(0, share));
  }

  /** A line across the middle of what is seen, or none. */
  function setLine(on: boolean): void {
    const { x, y, zoom: z } = view.value;
    const half = paneSize().width / 4 / z;
    line.value = on ? held({ x0: x - half, y0: y, x1: x + half, y1: y }) : undefined;
  }

  /** One end stays, the other is here. */
  function drawLine(from: { x: number; y: number }, to: { x: number; y: number }): void {
    line.value = held({ x0: from.x, y0: from.y, x1: to.x, y1: to.y });
  }

  function setLoupe(on: boolean): void {
    loupe.value = on;
  }

  function setUse(to: string): void {
    use.value = to;
  }

  function setScale(to: Scale): void {
    scale.value = to;
  }

  function nextMatch(): void {
    light.match = MATCHES[(MATCHES.indexOf(light.match) + 1) % MATCHES.length] ?? "none";
  }

  const told = computed(() => {
    const { x, y, zoom: z } = view.value;
    return {
      ...(patch.value ? { patch: patch.value.id } : { frame: frameId.value }),
      panes: letters.value.join(","),
      zoom: Number(z.toFixed(4)),
      x: x.toFixed(1),
      y: y.toFixed(1),
      ...lightTold(light),
      ...arrangedTold(arranged),
      ...(scale.value === "subject" ? {} : { scale: "own" }),
      ...(line.value ? { line: lineTold(line.value) } : {}),
      ...(loupe.value ? { loupe: "on" } : {}),
      ...(use.value ? { use: use.value } : {}),
      ...(pinned.value === undefined ? {} : { pinned: pinned.value }),
    };
  });
  useLookAddress(() => told.value);

  return {
    ready,
    patch,
    frame,
    frameId,
    letters,
    panes,
    against,
    arranged,
    inOneRoom,
    inSight,
    boundary,
    active,
    pinned,
    view,
    flicking,
    light,
    use,
    line,
    loupe,
    scale,
    paneSize,
    choose,
    divide,
    nextMatch,
    setScale,
    setUse,
    setLine,
    setLoupe,
    drawLine,
    goTo,
    goToFrame,
    goToSpot,
    step,
    zoom,
    zoomTo: looked.zoomTo,
    pan,
    show,
    turn,
    resize,
    pin,
  };
}

export type Look = ReturnType<typeof useLook>;
