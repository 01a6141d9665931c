// Words that are ours, or that a page uses in a sense of its own.
export const TERMS = {
  study: "One question put to the test, with everything needed to answer, check and publish it.",
  factor: "The one thing that differs between the contenders of a study.",
  scene: "What was photographed. Several frames may show it.",
  frame: "One source file of a scene, as it came from the camera or was made from one.",
  truth:
    "A frame’s known-good original: the clean picture before degrading, a base-ISO shot of the same scene, or the mean of a burst.",
  tool: "A program, or a method built into Glenhail, that works on pictures.",
  release: "One dated version of a tool.",
  treatment: "An ordered list of steps; each is a release with its mode and settings.",
  contender: "A treatment entered in a study under a letter.",
  output: "What one contender made of one frame: a file, or the reason why there is none.",
  "line-up": "How an output lies on its frame: scale, shift, border, and how well the two agree.",
  "like for like": "Whether outputs differ in nothing but what the study is about.",
  finding: "Something besides the factor that differs between outputs.",
  sitting:
    "One question put to judges who are not told whose pictures they see: pair by pair, graded, or put in order.",
  patch:
    "A rectangle on a frame, found again in every output, whose type says what is measured there.",
  reading: "One measure of one output on one patch or on the whole frame, with its 95 % interval.",
  wall: "A table of crops: patches in rows, contenders in columns, the subject equally large in all.",
  "close look": "The window full of panes that show the same spot of several outputs.",
  use: "Where a picture will be seen: in a post, on the web, in print at a distance.",
  verdict: "What a reviewer recommends for one use.",
  edition: "One published, numbered state of a report, which never changes.",
  "hot folder":
    "A folder with inputs for a tool that somebody runs by hand; what is put beside them is picked up.",
  target: "A painted test sheet with fields of known edges, noise and tones.",
  interval: "Where a value lies in 95 of 100 cases, from how much its parts differ.",
  levels: "Brightness as an 8-bit file has it: 0 is black, 255 is white.",
} as const;

export type Term = keyof typeof TERMS;

interface Page {
  path: RegExp;
  title: string;
  terms: readonly Term[];
  chapter: string;
}

/** What each page is about, the most particular first. */
const PAGES: readonly Page[] = [
  {
    path: /^\/studies\/\d+\/look/,
    title: "Close look",
    terms: ["close look", "patch", "truth", "levels"],
    chapter: "comparing",
  },
  {
    path: /^\/studies\/\d+\/(set-up)/,
    title: "Set up",
    terms: ["study", "factor", "frame", "contender", "treatment"],
    chapter: "first-study",
  },
  {
    path: /^\/studies\/\d+\/(bring-in|folders)/,
    title: "Bring in",
    terms: ["output", "line-up", "hot folder"],
    chapter: "outputs",
  },
  {
    path: /^\/studies\/\d+\/(audit|outputs)/,
    title: "Like for like",
    terms: ["like for like", "finding", "line-up"],
    chapter: "like-for-like",
  },
  {
    path: /^\/studies\/\d+\/series/,
    title: "Series over ISO",
    terms: ["patch", "interval"],
    chapter: "sensors",
  },
  { path: /^\/cameras/, title: "Cameras", terms: [], chapter: "sensors" },
  {
    path: /^\/studies\/\d+\/questions/,
    title: "Questions of the whole study",
    terms: ["contender", "use", "interval"],
    chapter: "comparing",
  },
  {
    path: /^\/studies\/\d+\/(compare|patches|numbers|curves|answers)/,
    title: "Compare",
    terms: ["wall", "patch", "reading", "interval", "truth"],
    chapter: "comparing",
  },
  {
    path: /^\/studies\/\d+\/judge/,
    title: "Judge",
    terms: ["use", "verdict"],
    chapter: "publishing",
  },
  {
    path: /^\/(studies\/\d+\/publish|published)/,
    title: "Publish",
    terms: ["edition", "verdict"],
    chapter: "publishing",
  },
  {
    path: /^\/studies/,
    title: "Studies",
    terms: ["study", "factor", "contender", "edition"],
    chapter: "first-study",
  },
  {
    path: /^\/(frames|targets)/,
    title: "Frames",
    terms: ["frame", "scene", "truth", "target"],
    chapter: "frames",
  },
  { path: /^\/tools/, title: "Tools", terms: ["tool", "release", "treatment"], chapter: "outputs" },
  { path: /^\/(bench|account)/, title: "Bench and account", terms: [], chapter: "bench" },
];

const ANY: Page = {
  path: /^/,
  title: "Glenhail",
  terms: ["study", "frame", "contender", "patch"],
  chapter: "first-study",
};

export const pageOf = (path: string): Page => PAGES.find((p) => p.path.test(path)) ?? ANY;
