// Handing something made in the browser over as a file.

/** Characters that a file's name may not have everywhere become a hyphen. */
export const fileName = (words: string): string =>
  words
    .replace(/[^\p{L}\p{N}.,_ -]+/gu, "-")
    .replace(/\s+/g, " ")
    .trim();

export function save(made: Blob, name: string): void {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(made);
  link.download = fileName(name);
  link.click();
  // A browser may still be reading it.
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}
