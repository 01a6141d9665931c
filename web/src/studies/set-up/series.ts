// Words for series of ISO values, and their order.

/** ISO values as a range where they go up stop by stop, else one by one. */
export function isosTold(isos: readonly number[]): string {
  const told = isos.map((iso) => iso.toLocaleString("en-GB"));
  const steady = isos.every((iso, i) => !i || Math.abs(iso / (isos[i - 1] ?? iso) - 2) < 0.05);
  if (isos.length > 3 && steady) return `${told[0]} to ${told.at(-1)}, every stop`;
  return told.join(", ");
}

/** The names with one of them first. */
export function putFirst(names: readonly string[], first: string): string[] {
  return [first, ...names.filter((name) => name !== first)];
}
