// Patches as they are being edited: what was typed, dragged or moved by keys shows at once, is sent
// a moment later, and several changes in a row follow each other instead of being lost.
import { computed, onScopeDispose, reactive, ref, type Ref } from "vue";

import type { Shape } from "@/api/client";
import type { Patch } from "@/api/types";

export type Change = Partial<Pick<Patch, "name" | "role" | "x" | "y" | "w" | "h">>;
type Send = (id: number, version: string, body: Shape["PatchIn"]) => Promise<Patch | undefined>;

const PAUSE_MS = 350;

export function usePatchEdits(kept: Ref<readonly Patch[]>, send: Send) {
  const edits = reactive(new Map<number, Change>());
  // Versions that one's own changes led to, before they are read again.
  const next = new Map<string, string>();
  const refused = ref(0);
  const timers = new Map<number, ReturnType<typeof setTimeout>>();
  let sending: Promise<unknown> = Promise.resolve();
  const patches = computed(() => kept.value.map((p) => ({ ...p, ...edits.get(p.id) })));

  function change(patch: Patch, changes: Change): void {
    edits.set(patch.id, { ...edits.get(patch.id), ...changes });
    clearTimeout(timers.get(patch.id));
    timers.set(
      patch.id,
      setTimeout(() => void flush(patch.id), PAUSE_MS),
    );
  }

  function flush(id: number): Promise<unknown> {
    clearTimeout(timers.get(id));
    timers.delete(id);
    return (sending = sending.then(() => sendOne(id)));
  }

  async function sendOne(id: number): Promise<void> {
    const [patch, edit] = [kept.value.find((p) => p.id === id), edits.get(id)];
    if (!patch || !edit) return;
    const { name, role, x, y, w, h } = { ...patch, ...edit };
    let version = patch.version;
    for (let later = next.get(version); later; later = next.get(version)) version = later;
    const made = await send(id, version, {
      name,
      role: role as Shape["PatchIn"]["role"],
      x,
      y,
      w,
      h,
    });
    if (!made) {
      next.clear();
      edits.delete(id);
      // Fields are made anew, so that they show what is kept.
      refused.value++;
      return;
    }
    if (made.version !== version) {
      next.set(version, made.version);
      next.delete(made.version);
    }
    // What was changed while this was on its way stays an edit.
    if (edits.get(id) === edit) edits.delete(id);
  }

  onScopeDispose(() => [...timers.keys()].forEach((id) => void flush(id)));
  return { patches, change, refused };
}
