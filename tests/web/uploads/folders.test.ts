import { droppedFiles, rooted } from "@/uploads/folders";

type Tree = { [name: string]: Tree | string };

function entry(name: string, tree: Tree | string, at = ""): FileSystemEntry {
  const fullPath = `${at}/${name}`;
  if (typeof tree === "string") {
    const file = (give: (f: File) => void) => give(new File([tree], name));
    return {
      isFile: true,
      isDirectory: false,
      name,
      fullPath,
      file,
    } as unknown as FileSystemEntry;
  }
  const inner = Object.entries(tree).map(([n, t]) => entry(n, t, fullPath));
  // As browsers do: a hundred at a time, then an empty list.
  const createReader = () => ({
    readEntries: (give: (found: FileSystemEntry[]) => void) =>
      give(inner.splice(0, 100)),
  });
  return {
    isFile: false,
    isDirectory: true,
    name,
    fullPath,
    createReader,
  } as unknown as FileSystemEntry;
}

function drop(tree: Tree): DataTransfer {
  const items = Object.entries(tree).map(([name, t]) => ({
    webkitGetAsEntry: () => entry(name, t),
  }));
  return {
    items: [...items, { webkitGetAsEntry: () => null }],
  } as unknown as DataTransfer;
}

describe("a folder that is dropped", () => {
  it("is read to its ends, each file with its path, hidden ones left out", async () => {
    const tree = {
      outputs: {
        "a.tif": "1",
        deep: { er: { "b.tif": "2" } },
        ".DS_Store": "x",
      },
      "c.tif": "3",
      empty: {},
    };
    const found = await droppedFiles(drop(tree));
    expect(found.map((f) => f.path).sort()).toEqual([
      "c.tif",
      "outputs/a.tif",
      "outputs/deep/er/b.tif",
    ]);
  });
  it("loses none of many files", async () => {
    const many = Object.fromEntries(
      Array.from({ length: 257 }, (_, i) => [`${i}.tif`, "x"]),
    );
    expect(await droppedFiles(drop({ many }))).toHaveLength(257);
  });
});

describe("a folder that is chosen", () => {
  it("has the paths that the browser tells, or names alone", () => {
    const one = new File([""], "a.tif");
    Object.defineProperty(one, "webkitRelativePath", {
      value: "outputs/a.tif",
    });
    const found = rooted([
      one,
      new File([""], "b.tif"),
      new File([""], ".hidden"),
    ]);
    expect(found.map((f) => f.path)).toEqual(["outputs/a.tif", "b.tif"]);
  });
});
