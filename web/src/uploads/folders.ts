// The files of a folder that was chosen or let go of, each with its path within.

export interface Found {
  file: File;
  path: string;
}

/** Files of a folder that was chosen: the browser tells their paths. */
export function rooted(files: File[]): Found[] {
  return files
    .filter((f) => !f.name.startsWith("."))
    .map((file) => ({ file, path: file.webkitRelativePath || file.name }));
}

/** Files and folders that were let go of, folders read to their ends. */
export async function droppedFiles(data: DataTransfer): Promise<Found[]> {
  const entries = [...data.items].map((i) => i.webkitGetAsEntry()).filter((e) => e !== null);
  const found = await Promise.all(entries.map((e) => within(e)));
  return found.flat().filter((f) => !f.file.name.startsWith("."));
}

async function within(entry: FileSystemEntry): Promise<Found[]> {
  if (entry.isFile) {
    const file = await new Promise<File>((resolve, reject) =>
      (entry as FileSystemFileEntry).file(resolve, reject),
    );
    return [{ file, path: entry.fullPath.replace(/^\//, "") }];
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  const found: Found[] = [];
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((resolve, reject) =>
      reader.readEntries(resolve, reject),
    );
    if (!some.length) return found;
    for (const e of some) found.push(...(await within(e)));
  }
}
