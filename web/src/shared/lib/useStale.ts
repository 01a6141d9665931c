// Calling what is shown out of date, at most once a second for each thing, however many changes
// there were: what is being read at that moment is read once more afterwards, instead of being
// broken off.
import { type QueryClient, useQueryClient } from "@tanstack/vue-query";

import type { Key } from "@/api/keys";

const PAUSE_MS = 1000;

export class Stale {
  private waiting = new Map<string, Key>();
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor(private readonly client: QueryClient) {}

  /** Read these again soon. */
  add(keys: readonly Key[]): void {
    for (const key of keys) this.waiting.set(JSON.stringify(key), key);
    if (this.timer === undefined) this.flush();
  }

  private flush(): void {
    this.timer = undefined;
    if (!this.waiting.size) return;
    for (const [name, key] of this.waiting) {
      if (this.client.isFetching({ queryKey: key })) continue;
      this.waiting.delete(name);
      void this.client.invalidateQueries({ queryKey: key });
    }
    this.timer = setTimeout(() => this.flush(), PAUSE_MS);
  }
}

const of = new WeakMap<QueryClient, Stale>();

export function useStale(): Stale {
  const client = useQueryClient();
  let stale = of.get(client);
  if (!stale) of.set(client, (stale = new Stale(client)));
  return stale;
}
