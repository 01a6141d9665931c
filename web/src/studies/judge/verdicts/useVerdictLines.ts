// A study's verdicts while they are being written.
import { computed, ref, watch } from "vue";

import { useVerdicts } from "@/studies/judge/queries";
import { useSaveVerdicts } from "@/studies/judge/mutations";
import { useNotices } from "@/shared/lib/useNotices";
import { keepUnsaved, useVersioned } from "@/shared/lib/useVersioned";
import { useStudyContext } from "@/studies/shared/useStudyContext";

import { emptyLine, type Line } from "./matrix";

export function useVerdictLines() {
  const { study } = useStudyContext();
  const { data } = useVerdicts(() => study.value.id);
  const notices = useNotices();
  const lines = ref<Line[]>([]);
  const changed = ref(false);
  /** The one that is being written. */
  const open = ref<number>();
  const { tag, theirs, headers, guarded } = useVersioned<Line[]>();
  const { busy, save: keep } = useSaveVerdicts(() => study.value.id, guarded);
  keepUnsaved(`verdicts-${study.value.id}`, lines, changed, tag);
  // What was being written when the page was left has no marks where it is from before there were.
  lines.value = lines.value.map((l) => ({ ...emptyLine(), ...l }));
  watch(data, follow, { immediate: true });

  /** What was saved is shown, unless something is being written. */
  function follow(): void {
    if (!data.value || changed.value) return;
    lines.value = data.value.data.map((r) => ({ ...emptyLine(), ...r }));
    tag.value = data.value.tag;
    if (open.value !== undefined && !lines.value[open.value]) open.value = undefined;
  }

  function takeTheirs(): void {
    if (theirs.value) lines.value = theirs.value.map((t) => ({ ...emptyLine(), ...t }));
    theirs.value = null;
    changed.value = false;
    open.value = undefined;
  }

  function add(use = "", scene = ""): void {
    lines.value.push(emptyLine(use, scene));
    open.value = lines.value.length - 1;
    changed.value = true;
  }

  function change(part: Partial<Line>): void {
    const at = open.value;
    const line = at === undefined ? undefined : lines.value[at];
    if (at === undefined || !line) return;
    lines.value[at] = { ...line, ...part };
    changed.value = true;
  }

  function remove(): void {
    const at = open.value;
    if (at === undefined) return;
    const [gone] = lines.value.splice(at, 1);
    open.value = undefined;
    changed.value = true;
    if (gone) notices.tell("Verdict removed.", () => lines.value.splice(at, 0, gone));
  }

  async function save(): Promise<void> {
    if (!(await keep(lines.value, headers()))) return;
    changed.value = false;
    open.value = undefined;
  }

  const shown = computed(() => (open.value === undefined ? undefined : lines.value[open.value]));
  return {
    ...{ lines, changed, open, shown, theirs, busy, read: computed(() => !!data.value) },
    ...{ add, change, remove, save, takeTheirs },
  };
}

export type VerdictLines = ReturnType<typeof useVerdictLines>;
