// All files on their way, wherever they were dropped: three at a time, going on after whatever
// breaks them off.
import { computed, reactive } from "vue";

import { api, ask, Problem } from "@/api/client";
import { AWAY } from "@/api/patient";
import { allKept, type Delivery, forget, keep, type Kept } from "./keep";
import { type Arrived, begin, finish, sendRest } from "./pieces";

export type SendingState =
  "waiting" | "sending" | "taking" | "broken" | "astray" | "refused" | "known" | "done";

export interface Sending {
  id: string;
  name: string;
  size: number;
  arrived: number;
  state: SendingState;
  problem: string;
  delivery: Delivery;
}

const LANES = 3;
const FULL = 507; // the disk, for now
const PAUSES = [1, 2, 4, 8, 15]; // seconds before it is tried again
const items = reactive<Sending[]>([]);
const files = new Map<string, File>();
let busy = 0;
let changed: () => void = () => undefined;

export const sending = computed(() => items as readonly Sending[]);

/** Told after files arrived, so that what is shown can be read anew. */
export function onArrival(tell: () => void): void {
  changed = tell;
}

/**
 * Send files for one purpose. One that was broken off before, and is chosen again, goes on where it
 * was.
 */
export function send(delivery: Delivery, chosen: File[]): void {
  for (const file of chosen) {
    const astray = items.find(
      (i) => i.state === "astray" && i.name === file.name && i.size === file.size,
    );
    if (astray) {
      astray.state = "waiting";
      enter(astray, file);
      continue;
    }
    items.push(newItem(madeUpId(), file.name, file.size, delivery));
    const item = items[items.length - 1];
    if (item) enter(item, file);
  }
  fill();
}

function newItem(id: string, name: string, size: number, delivery: Delivery, arrived = 0): Sending {
  return { id, name, size, arrived, state: "waiting", problem: "", delivery };
}

function enter(item: Sending, file: File): void {
  files.set(item.id, file);
  void keep({ id: item.id, file, delivery: { ...item.delivery } });
}

/** A random name; `crypto.randomUUID` is missing where the page is not served securely. */
function madeUpId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  const hex = [...bytes].map((b) => b.toString(16).padStart(2, "0")).join("");
  return hex.replace(/^(.{8})(.{4})(.{4})(.{4})(.{12})$/, "$1-$2-$3-$4-$5");
}

/** Take up again what an earlier page left, and name what only the server still knows of. */
export async function takeUp(): Promise<void> {
  for (const kept of await allKept()) {
    if (items.some((i) => i.id === kept.id)) continue;
    items.push(newItem(kept.id, kept.file.name, kept.file.size, kept.delivery));
    files.set(kept.id, kept.file);
  }
  fill();
  for (const open of await ask(api.GET("/api/uploads")).catch(() => [] as Arrived[])) {
    if (items.some((i) => i.id === open.id)) continue;
    items.push({
      ...newItem(open.id, open.name, open.size, open.delivery, open.received),
      state: "astray",
      problem: "broken off; choose the file again and it goes on from there",
    });
  }
}

function fill(): void {
  while (busy < LANES) {
    const next = items.find((i) => i.state === "waiting");
    if (!next) return;
    next.state = "sending";
    busy += 1;
    void alone(next.id, () => deliver(next)).finally(() => {
      busy -= 1;
      fill();
    });
  }
}

/** One tab sends a file at a time, where the browser can tell. */
async function alone(id: string, work: () => Promise<void>): Promise<void> {
  // Missing where the page is not served securely, whatever the types say.
  const locks = navigator.locks as LockManager | undefined;
  await (locks ? locks.request(`glenhail-sending-${id}`, work) : work());
}

async function deliver(item: Sending): Promise<void> {
  const file = files.get(item.id);
  if (!file) return;
  const kept: Kept = { id: item.id, file, delivery: { ...item.delivery } };
  for (let tries = 0; ; tries += 1) {
    try {
      const before = item.arrived;
      const known = await begin(kept);
      item.arrived = known.received;
      item.state = "sending";
      if (known.received > before) tries = 0;
      if (known.state === "open") await sendRest(kept, (bytes) => (item.arrived = bytes));
      let answer = await finish(item.id);
      // A large file is kept by a job; its bytes are all there.
      while (answer.state === "taking") {
        item.arrived = item.size;
        item.state = "taking";
        await rest(1);
        if (gone(item)) return;
        answer = await finish(item.id);
      }
      // Given back: keeping it came to nothing, for want of room or because it was cancelled.
      if (answer.state === "open") throw new Problem(507, answer.problem || "it could not be kept");
      settle(item, answer);
      return;
    } catch (error) {
      if (gone(item)) return;
      if (!again(error, tries)) {
        refuse(item, error);
        return;
      }
      const pause = PAUSES[Math.min(tries, PAUSES.length - 1)] ?? 15;
      item.state = "broken";
      const why =
        error instanceof Problem && error.status === 507
          ? error.message
          : "the connection broke off";
      item.problem = `${why}; tried again in ${pause} s`;
      await rest(pause);
      if (gone(item)) return;
    }
  }
}

/**
 * What may go better the next time: no answer, a server that is starting or busy with this person,
 * a full disk; a piece out of step.
 */
function again(error: unknown, tries: number): boolean {
  if (!(error instanceof Problem)) return false;
  const later = [...AWAY, FULL].includes(error.status);
  return later || (error.status === 409 && tries < 3);
}

function refuse(item: Sending, error: unknown): void {
  item.state = "refused";
  item.problem =
    error instanceof Problem
      ? error.message
      : `${item.name}: it can not be read any more. Choose it again.`;
  // After signing in again, a reload takes it up.
  if (!(error instanceof Problem && [401, 403].includes(error.status))) void forget(item.id);
}

function gone(item: Sending): boolean {
  return !items.some((i) => i.id === item.id);
}

function rest(seconds: number): Promise<void> {
  return new Promise((resolve) => {
    const wake = (): void => {
      clearTimeout(timer);
      window.removeEventListener("online", wake);
      resolve();
    };
    const timer = setTimeout(wake, 1000 * seconds);
    window.addEventListener("online", wake);
  });
}

function settle(item: Sending, answer: Arrived): void {
  void forget(item.id);
  files.delete(item.id);
  item.arrived = item.size;
  item.problem = answer.problem;
  item.state = answer.state === "refused" ? "refused" : "done";
  if (answer.result?.known) {
    item.state = "known";
    item.problem = `on the bench already, as ${answer.result.known}`;
  }
  changed();
}

/** Stop and forget one, whatever its state. */
export function drop(id: string): void {
  const at = items.findIndex((i) => i.id === id);
  const item = items[at];
  if (!item) return;
  items.splice(at, 1);
  files.delete(id);
  void forget(id);
  if (["waiting", "sending", "taking", "broken", "astray"].includes(item.state)) {
    const params = { path: { upload_id: id } };
    void ask(api.DELETE("/api/uploads/{upload_id}", { params })).catch(() => undefined);
  }
}

/** Forget all that have ended. */
export function clear(): void {
  const over = items.filter((i) => ["done", "known", "refused"].includes(i.state));
  for (const item of over) items.splice(items.indexOf(item), 1);
}
