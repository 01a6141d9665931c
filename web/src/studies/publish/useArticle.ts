// The article under work in the browser: saved by itself and when asked, taken back step by step,
// and brought together with what somebody else wrote.
import { useQueryClient } from "@tanstack/vue-query";
import { useDocumentVisibility, useManualRefHistory, watchDebounced } from "@vueuse/core";
import { computed, type MaybeRefOrGetter, onScopeDispose, ref, toRaw, toValue, watch } from "vue";

import { Problem } from "@/api/client";
import { keys } from "@/api/keys";
import { useNotices } from "@/shared/lib/useNotices";
import { keepUnsaved, useVersioned } from "@/shared/lib/useVersioned";
import type { Block, Texts } from "./blocks";
import { merged } from "./merging";
import { putReport } from "./mutations";
import { useReport, useVersions } from "./queries";

/** Pauses before it saves by itself, and before a step can be taken back; ms. */
const REST = 2_500;
const STEP = 500;
/** Until it tries again what could not be saved by itself. */
const AGAIN = 10_000;
const copy = <T>(of: T): T => JSON.parse(JSON.stringify(toRaw(of))) as T;
const same = (one: unknown, other: unknown) => JSON.stringify(one) === JSON.stringify(other);
const NOTHING: Texts = { summary: "", method: "", disclosure: "", blocks: [] };

export function useArticle(study: MaybeRefOrGetter<number>, mayWrite: MaybeRefOrGetter<boolean>) {
  const { data, error } = useReport(study);
  const report = computed(() => data.value?.data);
  const { tag, theirs, headers, guarded } = useVersioned<Texts>();
  const client = useQueryClient();
  const notices = useNotices();
  const text = ref<Texts>({ ...NOTHING });
  const changed = ref(false);
  const busy = ref(false);
  /** Somebody waits for it to be saved. */
  const asked = ref(false);
  /** Why it could not be saved by itself. */
  const trouble = ref("");
  /** What was read or saved last: what both sides of a merge began with. */
  let base = copy(text.value);
  keepUnsaved(`report-${toValue(study)}`, text, changed, tag);
  const steps = useManualRefHistory(text, { capacity: 100, clone: copy });
  const keepStep = () => {
    if (!same(text.value, steps.last.value.snapshot)) steps.commit();
  };
  watch(data, follow, { immediate: true });
  const stale = () => client.invalidateQueries({ queryKey: keys.part(toValue(study), "report") });
  const { data: versions } = useVersions(study);
  const newest = computed(() => {
    const [last] = versions.value ?? [];
    return versions.value && `${last?.id} ${last?.saved}`;
  });
  watch(newest, (_, before) => before && void stale());

  /** What somebody else saved is shown, unless something is being written. */
  function follow(): void {
    if (!data.value || changed.value || data.value.tag === tag.value) return;
    const { summary, method, disclosure, blocks } = data.value.data;
    text.value = copy({ summary, method, disclosure, blocks });
    base = copy(text.value);
    tag.value = data.value.tag;
    steps.commit();
    steps.clear();
  }
  function write(to: Partial<Texts>): void {
    text.value = { ...text.value, ...to };
    changed.value = true;
  }
  /** Another text may have been kept in the browser before reports had blocks. */
  const blocks = computed({
    get: (): Block[] => text.value.blocks ?? report.value?.blocks ?? [],
    set: (to) => write({ blocks: to }),
  });

  async function put(auto: boolean): Promise<void> {
    const sent = copy(text.value);
    const answer = await guarded(() => putReport(toValue(study), { ...sent, auto }, headers()));
    base = sent;
    tag.value = answer.tag;
    changed.value = !same(text.value, sent);
    trouble.value = "";
    await stale();
  }

  /** Both texts as one, where the two changed different parts of it. */
  function broughtTogether(): boolean {
    const both = theirs.value && merged(base, text.value, theirs.value);
    if (!both || !theirs.value) return false;
    base = copy(theirs.value);
    text.value = both;
    theirs.value = null;
    notices.tell("Somebody else changed other parts of the report; both are kept.");
    return true;
  }

  let running: Promise<void> | undefined;
  /** One after the other; what nobody asked for gives way. */
  async function save(auto = false): Promise<void> {
    if ((running || theirs.value) && auto) return;
    await running;
    running = saveNow(auto);
    await running;
    running = undefined;
  }
  async function saveNow(auto: boolean): Promise<void> {
    busy.value = true;
    asked.value = !auto;
    try {
      await put(auto).catch(async (why: unknown) => {
        if (!(why instanceof Problem && why.status === 412 && broughtTogether())) throw why;
        await put(auto);
      });
      if (!auto) notices.tell("Report saved.");
    } catch (why) {
      trouble.value = why instanceof Error ? why.message : String(why);
      if (!auto) notices.warn(why);
    } finally {
      busy.value = false;
    }
  }

  const restless = () => changed.value && !theirs.value && toValue(mayWrite);
  watchDebounced(text, keepStep, { deep: true, debounce: STEP });
  watchDebounced(text, () => restless() && void save(true), { deep: true, debounce: REST });
  // What was written meanwhile, or could not be saved, is not left lying.
  let again: ReturnType<typeof setTimeout>;
  const later = () => {
    clearTimeout(again);
    if (!busy.value && changed.value)
      again = setTimeout(() => restless() && void save(true), trouble.value ? AGAIN : REST);
  };
  watch(busy, later, { immediate: true });
  onScopeDispose(() => clearTimeout(again));
  // What is left is saved first, as far as there is time.
  const seen = useDocumentVisibility();
  watch(seen, (now) => now === "hidden" && restless() && void save(true));

  function takeTheirs(): void {
    if (theirs.value) text.value = copy(theirs.value);
    base = copy(text.value);
    theirs.value = null;
    changed.value = false;
  }
  function step(which: "undo" | "redo"): void {
    keepStep();
    steps[which]();
    changed.value = true;
  }
  return {
    report,
    error,
    ready: computed(() => !!data.value),
    text,
    blocks,
    changed,
    asked: computed(() => busy.value && asked.value),
    trouble,
    theirs,
    write,
    save,
    takeTheirs,
    step,
    canUndo: steps.canUndo,
    canRedo: steps.canRedo,
  };
}
