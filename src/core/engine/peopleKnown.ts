import type { Value } from "../expression";
import { PEOPLE_COLUMNS } from "../form";

/** What is known of everybody who is here, found by what a column of one text each holds. */
export interface PeopleKnown {
  all: readonly PersonKnown[];
  /** Those for whom a column holds a text, in their order; null for a column that is not found by. */
  by(column: string, text: string): readonly PersonKnown[] | null;
}
export interface PersonKnown {
  id: string;
  /** By the names of `PEOPLE_COLUMNS`. */
  values: ReadonlyMap<string, Value>;
}
const TEXT_COLUMNS: ReadonlySet<string> = new Set(
  PEOPLE_COLUMNS.filter((c) => c.type.t === "text").map((c) => c.name),
);

/** The index over one column is made when it is first asked for: of ten thousand people that takes some milliseconds. */
export function peopleKnown(all: readonly PersonKnown[]): PeopleKnown {
  const indexes = new Map<string, ReadonlyMap<string, PersonKnown[]>>();
  const indexOf = (column: string) => {
    const made = indexes.get(column);
    if (made) return made;
    const index = new Map<string, PersonKnown[]>();
    for (const p of all) {
      const v = p.values.get(column);
      if (typeof v !== "string") continue;
      const alike = index.get(v);
      if (alike) alike.push(p);
      else index.set(v, [p]);
    }
    indexes.set(column, index);
    return index;
  };
  return {
    all,
    by: (column, text) => (TEXT_COLUMNS.has(column) ? (indexOf(column).get(text) ?? []) : null),
  };
}
