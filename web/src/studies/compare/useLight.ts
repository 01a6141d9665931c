// The light of the wall: in the address, so that a link shows the same.
import { computed } from "vue";

import { useAddress } from "@/shared/lib/useAddress";
import type { Light } from "@/viewer/light";
import { lightFrom, lightTold } from "./lights";

const NAMES = ["lift", "shadows", "plane", "gained", "match", "marked"] as const;

export function useLight() {
  const { inAddress } = useAddress();
  const told = new Map(NAMES.map((name) => [name as string, inAddress(name)]));
  return computed<Light>({
    get: () => lightFrom((name) => told.get(name)?.value ?? ""),
    set: (light) => {
      const words = lightTold(light);
      for (const [name, ref] of told) ref.value = words[name] ?? "";
    },
  });
}
