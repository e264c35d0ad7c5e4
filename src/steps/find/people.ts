import type { EngineFacts } from "@/core/engine";
import {
  compile,
  environment,
  evaluate,
  type FormulaProblem,
  type Names,
  type Node,
  type Value,
} from "@/core/expression";
import { PEOPLE_COLUMNS } from "@/core/form";
import type { FindSort } from "./shape";

interface PeopleSought {
  /** Null for everybody. */
  where: Node | null;
  sort: readonly FindSort[];
  backwards: boolean;
  /** Most that are taken; one more tells that there are more. */
  most: number;
  /** Names behind those of a person. */
  outer: Names;
  /** Whether it has taken as long as it may. */
  late(): boolean;
}

/**
 * The people of the office who are here and meet a condition, in order of the columns, those alike by name; backwards
 * from the other end. A condition that cannot be worked out for one of them finds nobody and leaves nobody out.
 * @returns their ids, or why it cannot be told
 */
export function findPeople(facts: EngineFacts, q: PeopleSought): string[] | { why: string } {
  const program = q.where && compile(q.where);
  const found: { id: string; by: string[] }[] = [];
  for (const { id, values: value } of facts.peopleKnown().all) {
    if (q.late()) return { why: "it takes too long to work out." };
    if (program) {
      const notes: FormulaProblem[] = [];
      const names: Names = { get: (n) => (value.has(n) ? value.get(n)! : q.outer.get(n)) };
      const yes = evaluate(program, { ...environment(names, facts), notes }) === true;
      const failed = notes.find((n) => n.code !== "was-empty");
      if (failed) return { why: failed.message };
      if (!yes) continue;
    }
    const columns = [...q.sort.map((s) => s.column), "name"];
    found.push({ id, by: columns.map((c) => textIn(value, c)) });
  }
  const down = [...q.sort.map((s) => s.descending === true), false];
  const sign = q.backwards ? -1 : 1;
  found.sort((a, b) => {
    for (const [i, text] of a.by.entries())
      if (text !== b.by[i]) return (text < b.by[i]! ? -1 : 1) * (down[i] ? -1 : 1) * sign;
    return (a.id < b.id ? -1 : 1) * sign;
  });
  return found.slice(0, q.most + 1).map((p) => p.id);
}

const nameOf = new Map<string, string>(PEOPLE_COLUMNS.map((c) => [c.id, c.name]));
const textIn = (value: ReadonlyMap<string, Value>, column: string): string => {
  const v = value.get(nameOf.get(column) ?? "");
  return typeof v === "string" ? v.toLowerCase() : "";
};
