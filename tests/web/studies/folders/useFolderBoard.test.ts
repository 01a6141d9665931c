import { computed } from "vue";

import type { Contender, Folder, FolderFile, Frame } from "@/api/types";

const moved = vi.fn();
vi.mock("@/studies/folders/mutations", () => ({
  useFolderChanges: () => ({ place: moved }),
}));
const { sureness, useFolderBoard } =
  await import("@/studies/folders/useFolderBoard");

const file = (id: number, told: Partial<FolderFile> = {}): FolderFile =>
  ({
    id,
    use: "export",
    frame: 1,
    contender: 11,
    confidence: 0.9,
    by_hand: false,
    ...told,
  }) as FolderFile;

function board(...all_files: FolderFile[]) {
  const folder = computed(() => ({ all_files }) as unknown as Folder);
  const frames = computed(() => [{ id: 1 }, { id: 2 }] as Frame[]);
  const contenders = computed(
    () => [{ id: 11 }, { id: 12 }, { id: 13 }] as Contender[],
  );
  moved.mockClear();
  return useFolderBoard(() => 1, folder, frames, contenders);
}
const ids = (files: readonly FolderFile[]) => files.map((f) => f.id);

describe("how sure a proposal is", () => {
  it.each<[Partial<FolderFile>, string]>([
    [{ confidence: 1 }, "sure"],
    [{ confidence: 0.8 }, "sure"],
    [{ confidence: 0.79 }, "likely"],
    [{ confidence: 0.5 }, "likely"],
    [{ confidence: 0.49 }, "unsure"],
    [{ confidence: 0.1, by_hand: true }, "by hand"],
  ])("%j is %s", (told, word) => expect(sureness(file(1, told))).toBe(word));
});

describe("a folder's files on the board", () => {
  const files = [
    file(1),
    file(2, { confidence: 0.3 }),
    file(3, { contender: null }),
    file(4, { frame: null }),
    file(5, { use: "none" }),
    file(6, { contender: 12, frame: 2 }),
  ];

  it("each stands in one place: a cell, without one, or set aside", () => {
    const { placed, without, aside, cells, unsure } = board(...files);
    expect([ids(placed.value), ids(without.value), ids(aside.value)]).toEqual([
      [1, 2, 6],
      [3, 4],
      [5],
    ]);
    expect([...cells.value].map(([cell, of]) => [cell, ids(of)])).toEqual([
      ["11/1", [1, 2]],
      ["12/2", [6]],
    ]);
    expect(unsure.value).toBe(1);
  });

  it("one that was set aside is an export again once it is placed", () => {
    void board(...files).place(files[4]!, { contender: 13 });
    expect(moved).toHaveBeenCalledWith(files[4], {
      use: "export",
      frame: 1,
      contender: 13,
    });
  });

  it.each<[number, number, number, object | null]>([
    [0, 1, 0, { contender: 12, frame: 1 }],
    [0, 0, 1, { contender: 11, frame: 2 }],
    [0, -1, -1, { contender: 11, frame: 1 }], // at the edge it stays
    [5, 0, 1, null],
    [5, 2, 0, null],
    [2, 1, 0, { contender: 11, frame: 1 }], // from outside it enters at the first row
  ])("file %d by keys, %d down and %d across", (at, down, across, wanted) => {
    board(...files).step(files[at]!, down, across);
    if (!wanted) expect(moved).not.toHaveBeenCalled();
    else
      expect(moved).toHaveBeenCalledWith(files[at], {
        use: "export",
        ...wanted,
      });
  });
});
