import { defineConfigWithVueTs, vueTsConfigs } from "@vue/eslint-config-typescript";
import prettier from "eslint-config-prettier";
import vue from "eslint-plugin-vue";

export default defineConfigWithVueTs(
  { ignores: ["dist", "src/api/schema.d.ts"] },
  vue.configs["flat/recommended"],
  vueTsConfigs.strict,
  prettier,
  { rules: { "vue/multi-word-component-names": "off" } },
);
