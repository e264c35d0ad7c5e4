import { isList, type Value } from "../expression";
import { PEOPLE_COLUMNS } from "../form";

/** What is known of everybody who is here, found by what their columns hold. */
export interface PeopleKnown {
  all: readonly PersonKnown[];
  /**
   * Those whose column of one text each is this text (`is`), or whose list holds it (`has`), in their order; null for a
   * column that is not found by so.
   */
  by(how: "is" | "has", column: string, text: string): readonly PersonKnown[] | null;
}
export interface PersonKnown {
  id: string;
  /** By the names of `PEOPLE_COLUMNS`. */
  values: ReadonlyMap<string, Value>;
}
const namesOf = (t: "text" | "list"): ReadonlySet<string> =>
  new Set(PEOPLE_COLUMNS.filter((c) => c.type.t === t).map((c) => c.name));
const FOUND = { is: namesOf("text"), has: namesOf("list") };

/** The index over one column is made when it is first asked for: of ten thousand people that takes some milliseconds. */
export function peopleKnown(all: readonly PersonKnown[]): PeopleKnown {
  const indexes = new Map<string, ReadonlyMap<string, PersonKnown[]>>();
  const indexOf = (column: string) => {
    const made = indexes.get(column);
    if (made) return made;
    const index = new Map<string, PersonKnown[]>();
    for (const p of all) {
      const v = p.values.get(column) ?? null;
      for (const text of new Set(isList(v) ? v : [v])) {
        if (typeof text !== "string") continue;
        const alike = index.get(text);
        if (alike) alike.push(p);
        else index.set(text, [p]);
      }
    }
    indexes.set(column, index);
    return index;
  };
  return {
    all,
    by: (how, column, text) => (FOUND[how].has(column) ? (indexOf(column).get(text) ?? []) : null),
  };
}
