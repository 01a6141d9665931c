<script setup lang="ts">
import { usePageTitle } from "@/shared/lib/useTitle";

usePageTitle("Credits");
const SCENES = [
  [
    "Loom table",
    "Herringbone check woven thread by thread from twisted strands, bobbins, a brass gauge, stencilled brick.",
  ],
  [
    "Gauge wall",
    "High sun on a boiler gauge, an enamel notice and lime-washed brick; four straight edges of known angle.",
  ],
  [
    "Dye shed",
    "Skeins, raw fleece and a frayed rope in the shade, one bright doorway, a wet flagged floor.",
  ],
  [
    "Night yard",
    "Lamps near and far, wet cobbles, and 62 stars whose places are known to a thousandth of a pixel.",
  ],
  ["Bench chart", "Painted from formulas: slanted squares, sine stars, a step wedge."],
];
const PICTURE_FONTS = [
  ["Bebas Neue", "stencils"],
  ["Old Standard", "dials, engraving, the carved lintel"],
  ["Cabin", "signs"],
  ["Lato", "small print"],
];
const PAGE_FONTS = [
  ["Bricolage Grotesque", "headings"],
  ["Atkinson Hyperlegible Next", "text"],
  ["Spline Sans Mono", "numbers"],
];
</script>

<template>
  <div class="page readable">
    <h1 class="mt-7 mb-2">Credits</h1>
    <p class="text-title-medium prose mb-2">
      The Harrowbeck weaving mill does not exist. Nor do the bodies, the lenses, the tools or
      anybody who might have made them: everything in the sample studies is invented.
    </p>

    <section class="block">
      <h2 class="mb-2">How the sample pictures were made</h2>
      <p class="prose mb-2">
        Geometry and surfaces are computed with numpy: every thread of the cloth, every fibre of the
        fleece and every brick is there. Mitsuba 3 (BSD licence) traces the light through them on a
        processor, and Open Image Denoise (Apache 2.0), guided by each surface's colour and
        direction, takes out what noise of the tracing is left. A little lens scatter comes last.
        What results is linear light, and it is its own truth.
      </p>
      <dl style="--columns: 130px 1fr" class="in-grid gr-2 gc-5 my-4 columns">
        <template v-for="[name, what] in SCENES" :key="name">
          <dt class="strong">{{ name }}</dt>
          <dd>{{ what }}</dd>
        </template>
      </dl>
      <p class="prose mb-2">
        The frames are what the invented Corvane Quill 24 would record of these scenes: photon noise
        and read noise at the ISO in each file (photon transfer, Janesick 2007), from a recorded
        seed. The raw files are the loom table through a simulated lens, colour filters and sensor
        of both bodies. The archive print is the loom table printed small, a little soft, and kept
        as a JPEG. The scripts that build and render the scenes are in the folder
        <code>scenes</code> of the source; the application needs none of them.
      </p>
    </section>

    <section class="block">
      <h2 class="mb-2">Raw files</h2>
      <p class="prose mb-2">
        The Glenhail neutral rendering is made with LibRaw (LGPL 2.1 or CDDL 1.0) by way of rawpy
        (MIT licence), always with the same settings; its demosaic follows Hirakawa and Parks 2005.
        The number after its name changes when anything of it does.
      </p>
    </section>

    <section class="block">
      <h2 class="mb-2">Lettering</h2>
      <p class="prose mb-2">All under the SIL Open Font License 1.1.</p>
      <div style="--columns: 1fr 1fr" class="in-grid ga-7 columns">
        <div>
          <h3 class="mb-2">In the pictures, from Debian's packages</h3>
          <p v-for="[font, use] in PICTURE_FONTS" :key="font" class="prose mb-2">
            {{ font }} <span class="soft">{{ use }}</span>
          </p>
        </div>
        <div>
          <h3 class="mb-2">On these pages, from the npm registry</h3>
          <p v-for="[font, use] in PAGE_FONTS" :key="font" class="prose mb-2">
            {{ font }} <span class="soft">{{ use }}</span>
          </p>
        </div>
      </div>
    </section>
  </div>
</template>
