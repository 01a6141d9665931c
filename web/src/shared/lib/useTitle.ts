// The browser's title tells pages apart: what it is about first, the application last.
import { useTitle as useDocumentTitle } from "@vueuse/core";
import { computed, type MaybeRefOrGetter, toValue } from "vue";

export function usePageTitle(title: MaybeRefOrGetter<string>): void {
  useDocumentTitle(computed(() => [toValue(title), "Glenhail"].filter(Boolean).join(" · ")));
}
