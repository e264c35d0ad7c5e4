import type { Field } from "./field";

/** So many records one field may hold; whoever wants more has lines. */
export const MOST_RECORDS = 100;

/** How many records a field may hold, by what its owner says. */
export const mostRecords = (f: Pick<Field, "max">): number =>
  Math.min(Number(f.max ?? MOST_RECORDS) || MOST_RECORDS, MOST_RECORDS);
