<script setup lang="ts">
// All that a file says of itself, each fact with its name; what it does not say is told as such.
import { computed } from "vue";

import type { Facts } from "@/api/types";
import { printSizes, shutter } from "@/shared/lib/words";
import { bytes, taken } from "@/shared/lib/formats";

const props = defineProps<{ facts: Facts; fileName: string }>();
const ORIENTED = ["", "as stored", "mirrored", "turned by 180°", "mirrored, turned", "mirrored, turned", "turned right", "mirrored, turned", "turned left"]; // prettier-ignore
const rows = computed<[string, string | null | undefined][]>(() => {
  const f = props.facts;
  return [
    ["File", props.fileName],
    ["Camera", f.camera],
    ["Lens", f.lens],
    ["ISO", f.iso ? f.iso.toLocaleString("en-GB") : null],
    ["Shutter", f.shutter_s ? shutter(f.shutter_s) : null],
    ["Aperture", f.aperture ? `f/${Number(f.aperture.toPrecision(3))}` : null],
    ["Focal length", f.focal_mm ? `${Number(f.focal_mm.toPrecision(3))} mm` : null],
    ["Taken", f.taken && taken(f.taken)],
    ["Written by", f.software],
    ["Size", `${f.width} × ${f.height} px, ${((f.width * f.height) / 1e6).toFixed(1)} MP`],
    ["Prints", printSizes(f).join("; ")],
    [
      "Format",
      `${f.format}, ${f.bits} bit${f.sample === "float" ? " float" : ""}, ${f.compression || "uncompressed"}`,
    ],
    ["Profile", f.profile_assumed ? `none; ${f.profile} assumed` : f.profile],
    ["Orientation", f.orientation > 1 ? `${ORIENTED[f.orientation]}; upright here` : "as stored"],
    ["On disk", bytes(f.size_bytes)],
    ...(f.developed ? [["Developed", f.developed] as [string, string]] : []),
    ...(f.doubts ?? []).map((d): [string, string] => ["Note", d]),
  ];
});
</script>

<template>
  <dl
    style="--columns: 100px minmax(0, 1fr)"
    class="facts in-grid gr-1 gc-3 align-content-start columns"
  >
    <template v-for="([name, value], i) in rows" :key="i">
      <dt class="soft">{{ name }}</dt>
      <dd class="text-break" :class="{ soft: !value }">{{ value || "not stated in the file" }}</dd>
    </template>
  </dl>
</template>
