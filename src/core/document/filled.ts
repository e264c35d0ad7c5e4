/** What stands in the place of each node of a template, in order: the tree of tags once more, with what they came to. */
export type Filled =
  /** Of a value. */
  | string
  /** Of a picture: the id of a file; null for none. `signs` is the field for signatures whose place it is. */
  | { picture: string | null; signs?: string }
  /** Of something repeated: once for each thing. */
  | { times: Filled[][] }
  /** Of a condition: whether it holds, and the part that stands there. */
  | { holds: boolean; parts: Filled[] };

/** The same with a signature in each of its places; where there is none, it is as it was. */
export function withSignature(all: readonly Filled[], field: string, picture: string): Filled[] {
  const within = (parts: readonly Filled[]) => withSignature(parts, field, picture);
  return all.map((f): Filled => {
    if (typeof f === "string") return f;
    if ("picture" in f) return f.signs === field ? { ...f, picture } : f;
    return "times" in f ? { times: f.times.map(within) } : { ...f, parts: within(f.parts) };
  });
}

/** Ids of the pictures that stand in a document. */
export function picturesIn(all: readonly Filled[]): string[] {
  return all.flatMap((f): string[] => {
    if (typeof f === "string") return [];
    if ("picture" in f) return f.picture === null ? [] : [f.picture];
    return "times" in f ? f.times.flatMap(picturesIn) : picturesIn(f.parts);
  });
}
