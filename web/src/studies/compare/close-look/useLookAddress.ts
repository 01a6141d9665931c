// The address follows what is looked at, once it rests.
import { watch } from "vue";
import { type LocationQueryRaw, onBeforeRouteLeave, useRouter } from "vue-router";

const REST = 250; // ms

export function useLookAddress(told: () => LocationQueryRaw): void {
  const router = useRouter();
  let timer = 0;
  let leaving = false;
  watch(
    () => JSON.stringify(told()),
    () => {
      window.clearTimeout(timer);
      timer = window.setTimeout(() => {
        if (!leaving) void router.replace({ query: told() });
      }, REST);
    },
  );
  // It would break off a page change that is still loading.
  onBeforeRouteLeave(() => {
    leaving = true;
  });
}
