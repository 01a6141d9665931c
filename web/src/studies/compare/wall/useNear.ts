// Whether an element is in sight, or nearly: what is not need not be there. One observer for all.
import { onBeforeUnmount, onMounted, type Ref, ref } from "vue";

const MARGIN = "600px";
const told = new WeakMap<Element, (near: boolean) => void>();
let observer: IntersectionObserver | undefined;

function shared(): IntersectionObserver {
  observer ??= new IntersectionObserver(
    (entries) => entries.forEach((e) => told.get(e.target)?.(e.isIntersecting)),
    { rootMargin: MARGIN },
  );
  return observer;
}

export function useNear(element: Readonly<Ref<HTMLElement | null>>): Ref<boolean> {
  const near = ref(false);
  let watched: HTMLElement | null = null;
  onMounted(() => {
    watched = element.value;
    if (!watched) return;
    told.set(watched, (now) => (near.value = now));
    shared().observe(watched);
  });
  onBeforeUnmount(() => watched && shared().unobserve(watched));
  return near;
}
