import { childNodes, compile, environment, evaluate, type Names, type Node } from "../expression";
import { PEOPLE_COLUMNS } from "../form";
import type { PersonKnown } from "./peopleKnown";
import type { At, Turn } from "./turn";

/**
 * The people here who meet a condition over what is known of them, with the names of the route behind that, in the order
 * of the office. Whoever an equality that must hold leaves out is not asked at all: of ten thousand people those of one
 * department are found without looking at the others.
 * @throws Unclear where it cannot be worked out for one of them: nobody is found or left out by that
 */
export function peopleMeeting(turn: Turn, at: At, place: string, where: string): string[] {
  const outer = turn.names(at.scope);
  const f = turn.formula(at.step, place, where);
  const some = f && narrowed(turn, f.ast, outer);
  return (some ?? turn.facts.peopleKnown().all)
    .filter(({ values }) => {
      const names: Names = { get: (n) => (values.has(n) ? values.get(n)! : outer.get(n)) };
      return turn.value(at, place, where, names) === true;
    })
    .map((p) => p.id);
}

const COLUMNS: ReadonlySet<string> = new Set(PEOPLE_COLUMNS.map((c) => c.name));

/** The fewest that one of the equalities which must hold leaves; null where there is none to go by. */
function narrowed({ facts }: Turn, ast: Node, outer: Names): readonly PersonKnown[] | null {
  let fewest: readonly PersonKnown[] | null = null;
  for (const n of joined(ast)) {
    for (const { how, column, other } of heldAgainst(n)) {
      if (column.k !== "name" || !COLUMNS.has(column.name) || readsColumn(other)) continue;
      const text = evaluate(compile(other), environment(outer, facts));
      // Nothing, and what is no text, is left to the condition itself.
      const found = typeof text === "string" ? facts.peopleKnown().by(how, column.name, text) : null;
      if (found && (fewest === null || found.length < fewest.length)) fewest = found;
    }
  }
  return fewest;
}

/** What may be a column that is, or has, something: `Department = "Finance"`, `list contains(Duties, "Guard")`. */
function heldAgainst(n: Node): { how: "is" | "has"; column: Node; other: Node }[] {
  if (n.k === "cmp" && n.op === "=")
    return [
      { how: "is", column: n.left, other: n.right },
      { how: "is", column: n.right, other: n.left },
    ];
  const [column, other] = n.k === "call" && n.fn === "list contains" && !n.names ? n.args : [];
  return column && other ? [{ how: "has", column, other }] : [];
}

/** What "and" joins, however deep; without recursion, for a condition may be long. */
function joined(ast: Node): Node[] {
  const out: Node[] = [];
  const todo = [ast];
  for (let n = todo.pop(); n; n = todo.pop()) {
    if (n.k === "and") todo.push(n.right, n.left);
    else out.push(n);
  }
  return out;
}

/** Whether anything in it is called like a column: by then it may be another value for everybody. */
function readsColumn(of: Node): boolean {
  const todo = [of];
  for (let n = todo.pop(); n; n = todo.pop()) {
    if (n.k === "name" && COLUMNS.has(n.name)) return true;
    todo.push(...childNodes(n));
  }
  return false;
}
