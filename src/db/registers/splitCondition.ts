import {
  checkFormula,
  sqlCondition,
  YESNO,
  type Node,
  type Scope,
  type SqlCondition,
} from "@/core/expression";
import { fieldType, recordScope, type FormSurrounding, type RegisterShape } from "@/core/form";
import { columnsAsSql } from "./columnsAsSql";

/** A condition over records, parted into what the database can be asked and what it cannot. */
export interface SplitCondition {
  /** All must hold. */
  conditions: SqlCondition[];
  /** What the database cannot be asked, as a formula; null where there is nothing of that. */
  rest: string | null;
}

/**
 * Parts a condition at what "and" joins.
 * @param outside names that it may read beside the columns
 * @returns why, where it has a mistake
 */
export function splitCondition(
  text: string,
  shape: RegisterShape,
  around: FormSurrounding,
  outside: Scope,
): SplitCondition | { why: string } {
  const columns = recordScope(shape, around);
  const { ast, problems } = checkFormula(text, { ...outside, ...columns }, YESNO);
  if (!ast || problems.length > 0) return { why: problems[0]?.message ?? "it has a mistake." };
  const find = columnsAsSql(shape, around.registers);
  const sql = (part: string) =>
    sqlCondition(part, columns, outside, (path) => {
      const c = find(path);
      return c && { ...c, type: fieldType(c.column, around) };
    });
  const conditions: SqlCondition[] = [];
  const rest: string[] = [];
  for (const n of joined(ast)) {
    const part = text.slice(n.from, n.to);
    const made = sql(part);
    if (made.ok) conditions.push(made.condition);
    else rest.push(`(${part})`);
  }
  return { conditions, rest: rest.length > 0 ? rest.join(" and ") : null };
}

/** What "and" joins, however deep. */
const joined = (n: Node): Node[] => (n.k === "and" ? [...joined(n.left), ...joined(n.right)] : [n]);
