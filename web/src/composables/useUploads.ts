// Files on their way: each with its share sent and, if it came to that, its error.
import { ref } from "vue";

import { upload } from "../api/client";
import { useRefresh } from "../api/queries";

export interface Sending {
  key: number;
  name: string;
  share: number;
  problem: string;
}

export function useUploads() {
  const sending = ref<Sending[]>([]);
  const refresh = useRefresh();
  let count = 0;

  /** Send one file; the others of a batch go on whatever happens to this one. */
  async function send<T>(url: string, file: File, then?: (made: T) => Promise<unknown>): Promise<void> {
    sending.value.push({ key: ++count, name: file.name, share: 0, problem: "" });
    const item = sending.value[sending.value.length - 1];
    if (!item) return;
    try {
      const made = await upload<T>(url, file, (share) => (item.share = share));
      await then?.(made);
      drop(item.key);
      await refresh();
    } catch (error) {
      item.problem = error instanceof Error ? error.message : String(error);
    }
  }

  /** Send a batch, three at a time. */
  async function sendAll<T>(url: string, files: File[], then?: (made: T) => Promise<unknown>): Promise<void> {
    const rest = [...files];
    const lane = async (): Promise<void> => {
      for (let file = rest.shift(); file; file = rest.shift()) await send<T>(url, file, then);
    };
    await Promise.all([lane(), lane(), lane()]);
  }

  function drop(key: number): void {
    sending.value = sending.value.filter((s) => s.key !== key);
  }

  return { sending, send, sendAll, drop };
}
