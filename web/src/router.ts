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
    { path: "/studies", component: () => import("./pages/StudiesPage.vue") },
    { path: "/frames", component: () => import("./pages/FramesPage.vue") },
    {
      path: "/frames/:id(\\d+)",
      component: () => import("./pages/FramePage.vue"),
      props: (route) => ({ id: Number(route.params.id) }),
    },
    { path: "/cameras", component: () => import("./pages/CamerasPage.vue") },
    { path: "/targets", component: () => import("./pages/TargetsPage.vue") },
    { path: "/targets/new", component: () => import("./pages/TargetMakerPage.vue") },
    {
      path: "/frames/:id(\\d+)/degrade",
      component: () => import("./pages/DegradePage.vue"),
      props: (route) => ({ id: Number(route.params.id) }),
    },
    { path: "/tools", component: () => import("./pages/ToolsPage.vue") },
    {
      path: "/tools/:id(\\d+|new)",
      component: () => import("./pages/ToolPage.vue"),
      // One page for each tool: what is typed into one does not stay for the next.
      meta: { own: true },
      props: (route) => ({ id: route.params.id === "new" ? undefined : Number(route.params.id) }),
    },
    {
      path: "/studies/:id(\\d+)/folders/:folder(\\d+)",
      component: () => import("./pages/FolderPage.vue"),
      props: (route) => ({ id: Number(route.params.id), folder: Number(route.params.folder) }),
    },
    { path: "/published", component: () => import("./pages/ReportsPage.vue") },
    { path: "/credits", component: () => import("./pages/CreditsPage.vue"), meta: { open: true } },
    { path: "/account", component: () => import("./accounts/AccountPage.vue") },
    { path: "/bench", redirect: "/bench/people" },
    {
      path: "/bench/:part(people|storage|trail)",
      component: () => import("./accounts/BenchPage.vue"),
      props: true,
    },
    {
      path: "/join",
      component: () => import("./accounts/LinkPage.vue"),
      props: { joins: true },
      meta: { open: true },
    },
    {
      path: "/new-password",
      component: () => import("./accounts/LinkPage.vue"),
      props: { joins: false },
      meta: { open: true },
    },
    { path: "/queue", component: () => import("./pages/QueuePage.vue") },
    {
      path: "/studies/:id(\\d+)",
      component: () => import("./pages/StudyPage.vue"),
      props: (route) => ({ id: Number(route.params.id) }),
      children: [
        { path: "", redirect: (to) => `${to.path}/compare` },
        study("set-up", "set-up", () => import("./stages/SetUp.vue")),
        study("bring-in", "bring-in", () => import("./stages/BringIn.vue")),
        study("audit", "audit", () => import("./stages/AuditStage.vue")),
        {
          path: "outputs/:output(\\d+)",
          name: "output",
          component: () => import("./stages/OutputStage.vue"),
          props: (route) => ({ output: Number(route.params.output) }),
        },
        study("compare", "compare", () => import("./stages/WallStage.vue")),
        study("patches", "patches", () => import("./stages/PatchesStage.vue")),
        study("numbers", "numbers", () => import("./stages/NumbersStage.vue")),
        study("curves", "curves", () => import("./stages/CurvesStage.vue")),
        study("answers", "answers", () => import("./stages/AnswersStage.vue")),
        study("judge", "judge", () => import("./stages/JudgeStage.vue")),
        study("publish", "publish", () => import("./stages/PublishStage.vue")),
      ],
    },
    {
      path: "/studies/:id(\\d+)/look",
      component: () => import("./pages/CloseLook.vue"),
      props: (route) => ({ id: Number(route.params.id) }),
      meta: { bare: true },
    },
    { path: "/:rest(.*)", component: () => import("./pages/NotFound.vue") },
  ],
});
