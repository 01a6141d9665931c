import { createRouter, createWebHistory } from "vue-router";

const study = (path: string, name: string, load: () => Promise<unknown>) => ({
  path,
  name,
  component: load as never,
  props: true,
});

export const router = createRouter({
  history: createWebHistory(),
  scrollBehavior: (to, from, saved) => saved ?? (to.path === from.path ? undefined : { top: 0 }),
  routes: [
    { path: "/", redirect: "/studies" },
    { path: "/studies", component: () => import("@/studies/list/StudiesPage.vue") },
    { path: "/frames", component: () => import("@/material/frames/FramesPage.vue") },
    {
      path: "/frames/:id(\\d+)",
      component: () => import("@/material/frames/FramePage.vue"),
      props: (route) => ({ id: Number(route.params.id) }),
    },
    { path: "/cameras", component: () => import("@/material/cameras/CamerasPage.vue") },
    { path: "/targets", component: () => import("@/material/targets/TargetsPage.vue") },
    { path: "/targets/new", component: () => import("@/material/targets/TargetMakerPage.vue") },
    {
      path: "/frames/:id(\\d+)/degrade",
      component: () => import("@/material/degrading/DegradePage.vue"),
      props: (route) => ({ id: Number(route.params.id) }),
    },
    { path: "/tools", component: () => import("@/tools/ToolsPage.vue") },
    {
      path: "/tools/:id(\\d+|new)",
      component: () => import("@/tools/ToolPage.vue"),
      // One page for each tool: what is typed into one does not stay for the next.
      meta: { own: true },
      props: (route) => ({ id: route.params.id === "new" ? undefined : Number(route.params.id) }),
    },
    {
      path: "/studies/:id(\\d+)/folders/:folder(\\d+)",
      component: () => import("@/studies/folders/FolderPage.vue"),
      props: (route) => ({ id: Number(route.params.id), folder: Number(route.params.folder) }),
    },
    { path: "/published", component: () => import("@/reports/ReportsPage.vue") },
    { path: "/credits", component: () => import("./CreditsPage.vue"), meta: { open: true } },
    { path: "/guide", redirect: "/guide/first-study" },
    {
      path: "/guide/:chapter",
      component: () => import("@/help/GuidePage.vue"),
      props: true,
    },
    {
      path: "/sit/:seat",
      component: () => import("@/sittings/SeatPage.vue"),
      props: true,
      meta: { open: true, bare: true, own: true },
    },
    {
      path: "/invited/:link",
      component: () => import("@/sittings/InvitationPage.vue"),
      props: true,
      meta: { open: true, bare: true, own: true },
    },
    { path: "/account", component: () => import("@/accounts/AccountPage.vue") },
    { path: "/bench", redirect: "/bench/people" },
    {
      path: "/bench/:part(people|storage|programs|trail)",
      component: () => import("@/accounts/BenchPage.vue"),
      props: true,
    },
    {
      path: "/join",
      component: () => import("@/accounts/LinkPage.vue"),
      props: { joins: true },
      meta: { open: true },
    },
    {
      path: "/new-password",
      component: () => import("@/accounts/LinkPage.vue"),
      props: { joins: false },
      meta: { open: true },
    },
    { path: "/queue", component: () => import("@/queue/QueuePage.vue") },
    {
      path: "/studies/:id(\\d+)",
      component: () => import("@/studies/shared/StudyPage.vue"),
      props: (route) => ({ id: Number(route.params.id) }),
      children: [
        { path: "", redirect: (to) => `${to.path}/compare` },
        study("set-up", "set-up", () => import("@/studies/set-up/SetUp.vue")),
        study("bring-in", "bring-in", () => import("@/studies/bring-in/BringIn.vue")),
        study("audit", "audit", () => import("@/studies/audit/AuditStage.vue")),
        {
          path: "outputs/:output(\\d+)",
          name: "output",
          component: () => import("@/studies/audit/output/OutputStage.vue"),
          props: (route) => ({ output: Number(route.params.output) }),
        },
        study("compare", "compare", () => import("@/studies/compare/wall/WallStage.vue")),
        study("patches", "patches", () => import("@/studies/compare/patches/PatchesStage.vue")),
        study("numbers", "numbers", () => import("@/studies/compare/numbers/NumbersStage.vue")),
        study("curves", "curves", () => import("@/studies/compare/curves/CurvesStage.vue")),
        study("series", "series", () => import("@/studies/compare/series/SeriesStage.vue")),
        study(
          "questions/visibility",
          "questions-visibility",
          () => import("@/studies/compare/questions/visibility/VisibilityStage.vue"),
        ),
        study(
          "questions/strength",
          "questions-strength",
          () => import("@/studies/compare/questions/strength/StrengthStage.vue"),
        ),
        study(
          "questions/level",
          "questions-level",
          () => import("@/studies/compare/questions/level/LevelStage.vue"),
        ),
        study(
          "questions/order",
          "questions-order",
          () => import("@/studies/compare/questions/order/OrderStage.vue"),
        ),
        study(
          "questions/releases",
          "questions-releases",
          () => import("@/studies/compare/questions/releases/ReleasesStage.vue"),
        ),
        study(
          "questions/worth",
          "questions-worth",
          () => import("@/studies/compare/questions/worth/WorthStage.vue"),
        ),
        { path: "questions", redirect: (to) => `${to.path}/visibility` },
        study("answers", "answers", () => import("@/studies/compare/answers/AnswersStage.vue")),
        study("judge", "judge", () => import("@/studies/judge/JudgeStage.vue")),
        {
          path: "sittings/:sitting(\\d+)",
          name: "sitting",
          component: () => import("@/studies/judge/sittings/SittingStage.vue"),
          props: (route) => ({ sitting: Number(route.params.sitting) }),
        },
        study("publish", "publish", () => import("@/studies/publish/PublishStage.vue")),
      ],
    },
    {
      path: "/studies/:id(\\d+)/look",
      component: () => import("@/studies/compare/close-look/CloseLook.vue"),
      props: (route) => ({ id: Number(route.params.id) }),
      meta: { bare: true },
    },
    { path: "/:rest(.*)", component: () => import("@/shared/ui/NotFound.vue") },
  ],
});
