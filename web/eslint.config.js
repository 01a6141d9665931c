import { defineConfigWithVueTs, vueTsConfigs } from "@vue/eslint-config-typescript";
import prettier from "eslint-config-prettier";
import vue from "eslint-plugin-vue";
import vuetify from "eslint-plugin-vuetify";

// From the ground up: an area imports itself and what stands before it.
const AREAS = [
  "api",
  "shared",
  "charts",
  "viewer",
  "help",
  "queue",
  "uploads",
  "accounts",
  "material",
  "tools",
  "reports",
  "studies",
  "app",
];
const downwardsOnly = AREAS.map((area, at) => ({
  files: [`src/${area}/**/*.{ts,vue}`],
  rules: {
    "no-restricted-imports": [
      "error",
      {
        patterns: [
          ...AREAS.slice(at + 1).map((above) => ({
            group: [`@/${above}/*`],
            message: `${area} stands below ${above}.`,
          })),
          { group: ["../*"], message: "Other folders are imported from @/." },
        ],
      },
    ],
  },
}));

// Controls are the platform's (Vuetify), in our look; pictures' own controls live in the viewer.
const CONTROLS = ["button", "select", "input", "textarea", "table", "dialog"];
const noRawControls = {
  files: ["src/**/*.vue"],
  ignores: ["src/viewer/**"],
  rules: {
    "vue/no-restricted-html-elements": [
      "error",
      ...CONTROLS.map((element) => ({
        element,
        message: `A <${element}> has a component of the platform: see app/theme and shared/ui.`,
      })),
    ],
  },
};

// Pages compose and components show; what is read and changed stands in queries and mutations.
const readsAndChanges = {
  files: ["src/**/*.vue"],
  ignores: ["src/app/SignIn.vue", "src/accounts/LinkPage.vue"],
  rules: {
    "no-restricted-syntax": [
      "error",
      {
        selector: "CallExpression[callee.object.name='api']",
        message: "Calls of the server stand in the area's queries.ts or mutations.ts.",
      },
    ],
  },
};

export default defineConfigWithVueTs(
  { ignores: ["dist", "src/api/schema.d.ts"] },
  vue.configs["flat/recommended"],
  vuetify.configs["flat/recommended"],
  vueTsConfigs.strict,
  prettier,
  {
    rules: {
      "vue/multi-word-component-names": "off",
      "vue/max-len": [
        "error",
        {
          code: 100,
          template: 100,
          ignoreUrls: true,
          ignoreStrings: true,
          ignoreTemplateLiterals: true,
          ignoreHTMLAttributeValues: true,
          ignoreHTMLTextContents: true,
          ignoreRegExpLiterals: true,
        },
      ],
    },
  },
  ...downwardsOnly,
  noRawControls,
  readsAndChanges,
);
