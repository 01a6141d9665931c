// Do something at the server, then read again what is shown; say so if it fails.
import { ref } from "vue";

import { Problem } from "@/api/client";
import { useRefresh } from "@/api/queries";
import { useNotices } from "./useNotices";

export function useAct() {
  const busy = ref(false);
  const notices = useNotices();
  const refresh = useRefresh();

  async function act<T>(work: () => Promise<T>, done?: string): Promise<T | undefined> {
    busy.value = true;
    try {
      const result = await work();
      await refresh();
      if (done) notices.tell(done);
      return result;
    } catch (error) {
      notices.warn(error);
      // What somebody else made of it is shown at once.
      if (error instanceof Problem && error.status === 412) await refresh();
      return undefined;
    } finally {
      busy.value = false;
    }
  }

  return { busy, act };
}
