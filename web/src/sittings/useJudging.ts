// One judge at work: what is shown now, what was said, what is on its way.
import { useQueryClient } from "@tanstack/vue-query";
import { computed, onScopeDispose, ref, watch } from "vue";

import { api, ask, type Shape } from "@/api/client";

import { type Answer, Outbox } from "./answers";
import { Pictures } from "./pictures";
import { pictureAt, placeOf, seatKey, useSeat } from "./queries";

const AGAIN = 1200; // ms

export function useJudging(key: string) {
  const client = useQueryClient();
  const { data: seat, error } = useSeat(key);
  const place = ref<number>();
  const shown = ref<Shape["SeatPlaceOut"]>();
  const kinds = ref<string[]>([]);
  const problem = ref("");
  const waiting = ref(0);
  const loaded = ref(0);
  const paused = ref(false);
  /** Of what is shown: its pictures, the one for comparison last. */
  const urls = ref<string[]>([]);
  const pictures = new Pictures();
  /** What was said on this page: what the server tells of a place may be older than that. */
  const said = new Map<number, Answer>();
  let since = 0;
  let gone = false;
  onScopeDispose(() => {
    gone = true;
    pictures.keepOnly([]);
  });

  const outbox = new Outbox(
    key,
    async ({ place: at, ...body }: Answer) => {
      const told = await ask(
        api.PUT("/api/seats/{seat_key}/places/{place}", {
          params: { path: { seat_key: key, place: at } },
          body,
        }),
      );
      client.setQueryData(seatKey(key), told);
    },
    (count, why) => {
      waiting.value = count;
      problem.value = why;
    },
  );

  const places = computed(() => seat.value?.places ?? 0);
  const over = computed(() => place.value !== undefined && place.value >= places.value);
  const ready = computed(() => shown.value !== undefined && loaded.value >= shown.value.pictures);

  // What was given before the page was left is sent first; then on from there.
  const stop = watch(
    seat,
    (now) => {
      if (!now || place.value !== undefined) return;
      const kept = outbox.waiting.map((a) => a.place + 1);
      place.value = Math.max(now.answered, ...kept);
      void outbox.flush();
    },
    { immediate: true },
  );
  onScopeDispose(stop);
  watch(place, (at) => void look(at), { immediate: true });

  async function look(at: number | undefined): Promise<void> {
    shown.value = undefined;
    loaded.value = 0;
    if (at === undefined || at >= places.value) return;
    try {
      const found = await placeOf(key, at);
      const wanted = addresses(at, found);
      const ready = await Promise.all(wanted.map((address) => pictures.get(address)));
      if (gone || place.value !== at) return;
      const own = said.get(at) ?? outbox.waiting.find((a) => a.place === at);
      kinds.value = [...(own?.kinds ?? found.kinds)];
      urls.value = ready;
      shown.value = { ...found, answer: own?.answer ?? found.answer };
      ahead(at + 1, found, wanted);
    } catch (e) {
      // The answer before it may still be on its way.
      if (!outbox.waiting.length) problem.value = e instanceof Error ? e.message : String(e);
      setTimeout(() => !gone && place.value === at && void look(at), AGAIN);
    }
  }

  const addresses = (at: number, { pictures: count, beside }: Shape["SeatPlaceOut"]): string[] => [
    ...Array.from({ length: count }, (_, i) => pictureAt(key, at, i)),
    ...(beside ? [pictureAt(key, at, "beside")] : []),
  ];

  /** The next pictures come while these are looked at. */
  function ahead(at: number, like: Shape["SeatPlaceOut"], now: string[]): void {
    const next = at < places.value ? addresses(at, like) : [];
    pictures.keepOnly([...now, ...next]);
    for (const address of next) pictures.get(address).catch(() => undefined);
  }

  function pictureLoaded(): void {
    loaded.value += 1;
    if (shown.value && loaded.value >= shown.value.pictures) since = performance.now();
  }

  function say(answer: Record<string, unknown>): void {
    if (!ready.value || place.value === undefined || paused.value) return;
    const took = Math.round(performance.now() - since);
    const given = { place: place.value, answer, kinds: [...kinds.value], took_ms: took };
    said.set(given.place, given);
    outbox.put(given);
    kinds.value = [];
    place.value += 1;
  }

  function back(): void {
    if (place.value) place.value -= 1;
  }

  return {
    seat,
    error,
    place,
    places,
    shown,
    urls,
    kinds,
    problem,
    waiting,
    ready,
    over,
    paused,
    pictureLoaded,
    say,
    back,
  };
}
