import type { StudyRow } from "@/api/types";
import { foundStudies, type Wanted } from "@/studies/list/finder";

const study = (id: number, more: Partial<StudyRow> = {}): StudyRow =>
  ({
    id,
    question: `Question ${id}`,
    factor: "tool",
    archived: false,
    edition: null,
    contenders: [],
    ...more,
  }) as unknown as StudyRow;
const ALL: Wanted = { words: "", state: "", factor: "", order: "newest" };
const contender = (title: string) =>
  ({ kind: "treatment", title, manner: "strength 60 %" }) as never;
const STUDIES = [
  study(1, { question: "Does Tarnlift hold detail?", edition: 2 }),
  study(2, { question: "Anything at ISO 6400?", factor: "body" }),
  study(3, { question: "Old", archived: true, edition: 1 }),
  study(4, {
    question: "In which order?",
    contenders: [contender("Keenfold")],
  }),
];
const found = (wanted: Partial<Wanted>) =>
  foundStudies(STUDIES, { ...ALL, ...wanted }).map((s) => s.id);

describe("finding studies", () => {
  it.each<[string, Partial<Wanted>, number[]]>([
    ["shows what is current, the newest first", {}, [4, 2, 1]],
    ["sorts the oldest first", { order: "oldest" }, [1, 2, 4]],
    ["sorts by question", { order: "question" }, [2, 1, 4]],
    ["finds words of the question", { words: "hold DETAIL" }, [1]],
    ["finds a contender by its tool", { words: "keenfold" }, [4]],
    ["finds all words, in any order", { words: "6400 anything" }, [2]],
    ["finds nothing where one word is missing", { words: "hold order" }, []],
    ["shows what is published", { state: "published" }, [1]],
    ["shows what is not", { state: "open" }, [4, 2]],
    ["shows what is archived, published or not", { state: "archived" }, [3]],
    ["filters by what varies", { factor: "body" }, [2]],
    ["takes filters together", { factor: "tool", words: "order" }, [4]],
  ])("%s", (_, wanted, ids) => expect(found(wanted)).toEqual(ids));

  it("leaves the list itself as it was", () => {
    const before = STUDIES.map((s) => s.id);
    found({ order: "question" });
    expect(STUDIES.map((s) => s.id)).toEqual(before);
  });
});
