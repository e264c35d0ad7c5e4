import { Temporal } from "temporal-polyfill";
import { environment, sqlCondition, type FormulaProblem, type Value } from "@/core/expression";
import { fieldType, recordScope, type RegisterShape, type Registers } from "@/core/form";
import { registers, type Db, type RecordSearch } from "@/db";
import { KINDS } from "@/kinds";
import { nowMs } from "../kernel/clock";
import { Failed } from "../kernel/failure";

/**
 * The condition of a search as SQL, or a failure that names the part of it that cannot be searched for.
 * @param seen the registers whoever searches may see: a column they may not is one there is not
 */
export async function whereOf(
  db: Db,
  seen: Registers,
  shape: RegisterShape,
  formula: string,
  zone: string,
): Promise<NonNullable<RecordSearch["where"]>> {
  const columns = recordScope(shape, { registers: seen, kinds: KINDS });
  const find = registers.columnsAsSql(shape, seen);
  const made = sqlCondition(formula, columns, {}, (path) => {
    const c = find(path);
    return c && { ...c, type: fieldType(c.column, { registers: seen, kinds: KINDS }) };
  });
  if (!made.ok)
    throw new Failed({ code: "invalid", data: { path: "Condition", message: made.problems[0]!.message } });
  const now = Temporal.Instant.fromEpochMilliseconds(await nowMs(db)).toZonedDateTimeISO(zone);
  const notes: FormulaProblem[] = [];
  const env = { ...environment(new Map<string, Value>(), { now }), notes };
  return (bind) => {
    const where = made.condition.where(env, bind);
    // What cannot be worked out is not empty: records must not be left out, or found, for want of it.
    const failed = notes.find((n) => n.code !== "was-empty");
    if (failed) throw new Failed({ code: "invalid", data: { path: "Condition", message: failed.message } });
    return where;
  };
}
