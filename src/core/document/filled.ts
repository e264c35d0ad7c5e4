/** What stands in the place of each node of a template, in order: the tree of tags once more, with what they came to. */
export type Filled =
  /** Of a value. */
  | string
  /** Of a picture: the id of a file; null for none. */
  | { picture: string | null }
  /** Of something repeated: once for each thing. */
  | { times: Filled[][] }
  /** Of a condition: whether it holds, and the part that stands there. */
  | { holds: boolean; parts: Filled[] };

/** Ids of the pictures that stand in a document. */
export function picturesIn(all: readonly Filled[]): string[] {
  return all.flatMap((f): string[] => {
    if (typeof f === "string") return [];
    if ("picture" in f) return f.picture === null ? [] : [f.picture];
    return "times" in f ? f.times.flatMap(picturesIn) : picturesIn(f.parts);
  });
}
