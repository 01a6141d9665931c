// The queue as every page sees it; what work has changed is read again.
import {
  computed,
  type ComputedRef,
  inject,
  type InjectionKey,
  provide,
  type Ref,
  watch,
} from "vue";

import type { Job } from "@/api/types";
import { useStale } from "@/shared/lib/useStale";

import { staleAfter } from "./effects";
import { useQueue } from "./queries";
import { useWorkNotice } from "./useWorkNotice";

export interface Work {
  active: ComputedRef<number>;
  secondsLeft: ComputedRef<number | null>;
  jobs: ComputedRef<Job[]>;
}

const KEY: InjectionKey<Work> = Symbol("work");

export function provideWork(signedIn: Ref<boolean>): Work {
  const { data } = useQueue(signedIn);
  const stale = useStale();
  const seen = new Set<number>();
  const active = computed(() => data.value?.active ?? 0);
  const secondsLeft = computed(() => data.value?.seconds_left ?? null);
  const jobs = computed(() => [...(data.value?.jobs ?? [])]);
  // Some that ended just before are told twice.
  watch(data, (told) => {
    const ended = told?.ended.filter((job) => !seen.has(job.id)) ?? [];
    for (const job of ended) seen.add(job.id);
    stale.add(ended.flatMap(staleAfter));
  });
  useWorkNotice(active);
  const work = { active, secondsLeft, jobs };
  provide(KEY, work);
  return work;
}

export function useWork(): Work {
  const found = inject(KEY);
  if (!found) throw new Error("provideWork was not called above");
  return found;
}
