/** Between the texts of a value that holds several; none of them holds one. */
export const BETWEEN = "\n";

/** The texts of a value that holds several, in their order, each once. */
export const byLine = (raw: string): string[] => [...new Set(raw.split(BETWEEN).filter(Boolean))];

/** How several texts are kept as one value, each once; null for none. */
export const joinedByLine = (texts: readonly string[]): string | null =>
  [...new Set(texts)].join(BETWEEN) || null;
