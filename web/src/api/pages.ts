// Lists that grow without bound come a page at a time, the newest first.

/** As many rows as the server's material.queries.PAGE. */
export const PAGE = 100;

/** All rows of such a list: each page is asked for with the last row of the one before. */
export async function everyPage<Row extends { id: number }>(
  page: (before: number | undefined) => Promise<readonly Row[]>,
): Promise<Row[]> {
  const all: Row[] = [];
  for (;;) {
    const some = await page(all.at(-1)?.id);
    all.push(...some);
    if (some.length < PAGE) return all;
  }
}
