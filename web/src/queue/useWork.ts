// The queue as every page sees it; when work moves on, what is shown is read again.
import {
  computed,
  type ComputedRef,
  inject,
  type InjectionKey,
  provide,
  type Ref,
  watch,
} from "vue";

import { type Job, useQueue, useRefresh } from "@/api/queries";

export interface Work {
  active: ComputedRef<number>;
  jobs: ComputedRef<Job[]>;
}

const KEY: InjectionKey<Work> = Symbol("work");

export function provideWork(signedIn: Ref<boolean>): Work {
  const { data } = useQueue(signedIn);
  const refresh = useRefresh();
  const active = computed(() => data.value?.active ?? 0);
  const jobs = computed(() => [...(data.value?.jobs ?? [])]);
  // A change of any job's state, not only of their number: one may end as another begins.
  const states = computed(() => jobs.value.map((job) => `${job.id}${job.state}`).join());
  watch(states, (_, before) => before !== "" && void refresh());
  const work = { active, jobs };
  provide(KEY, work);
  return work;
}

export function useWork(): Work {
  const found = inject(KEY);
  if (!found) throw new Error("provideWork was not called above");
  return found;
}
