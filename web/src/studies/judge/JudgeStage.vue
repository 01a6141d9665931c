<script setup lang="ts">
import NextStep from "@/studies/shared/NextStep.vue";

import RemarksBlock from "./RemarksBlock.vue";
import SittingsBlock from "./sittings/SittingsBlock.vue";
import VerdictsBlock from "./verdicts/VerdictsBlock.vue";
</script>

<template>
  <SittingsBlock />
  <VerdictsBlock />
  <RemarksBlock />
  <NextStep />
</template>
