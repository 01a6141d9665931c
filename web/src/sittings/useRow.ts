// A row of pictures that is put in order: by choosing the best first, or by dragging them.
import { computed, ref, watch } from "vue";

/** With one put where another stands; the others close up. */
export function put<T>(row: readonly T[], one: T, where: T): T[] {
  const to = row.indexOf(where);
  const rest = row.filter((r) => r !== one);
  return to < 0 ? [...row] : [...rest.slice(0, to), one, ...rest.slice(to)];
}

export function useRow(count: () => number, say: (order: number[]) => void) {
  /** Those that were chosen, the best first. */
  const ranked = ref<number[]>([]);
  /** As they stand, from the left. */
  const standing = ref<number[]>([]);
  const dragged = ref<number>();
  const moved = computed(() => standing.value.some((which, at) => which !== at));
  watch(count, (n) => (standing.value = [...Array(n).keys()]), { immediate: true });

  /** Take it as the next best; chosen again it is out of the order. */
  function rank(which: number): void {
    const out = ranked.value.includes(which);
    ranked.value = out ? ranked.value.filter((r) => r !== which) : [...ranked.value, which];
    if (ranked.value.length === count()) say(ranked.value);
  }

  function drop(where: number): void {
    if (dragged.value !== undefined) standing.value = put(standing.value, dragged.value, where);
    dragged.value = undefined;
  }

  return { ranked, standing, dragged, moved, rank, drop, done: () => say(standing.value) };
}
