import { equalValues, toNum } from "../expression";
import type { FieldKinds, Named, RegisterShape, StoredRecord } from "../form";
import { fieldOfColumn, type RecordValues, type RecordWrite } from "../records";
import type { SheetPlan, SheetRow } from "./sheetPlan";

/** Why a row comes to no record, before any column has been asked. */
export type RowMistake =
  | { code: "unnamed"; column: string; text: string; why: "none" | "several"; registers: readonly string[] }
  | { code: "no-key"; column: string }
  | { code: "key-twice"; column: string; value: string; line: number }
  | { code: "key-several"; column: string; value: string; count: number }
  | { code: "empty-row" };

export type PlannedRow = { line: number } & (
  | { as: "write"; write: RecordWrite; before: StoredRecord | null }
  /** It is left as it is: it is there, or is not, and that is not wanted. */
  | { as: "left"; why: "there" | "absent"; before: StoredRecord | null }
  | { as: "refused"; mistake: RowMistake }
);

/** What rows are planned with: what texts name, and which records have which key. */
export interface PlanContext {
  shape: RegisterShape;
  kinds: FieldKinds;
  /** By column and text, whom or what it names. */
  named(column: string, text: string): Named;
  /** The records with a value in the key column, as they are, and of which version. */
  withKey(value: string): readonly { record: StoredRecord; version: string }[];
  /** By value, the line that had this key before; grows with the rows that are planned. */
  keys: Map<string, number>;
}

/** What the cells of a row come to, by column, or the first that names nobody. */
function valuesOf(
  plan: SheetPlan,
  row: SheetRow,
  ctx: PlanContext,
): { values: Record<string, string | boolean | null> } | { mistake: RowMistake } {
  const values: Record<string, string | boolean | null> = {};
  for (const [i, id] of plan.matches.entries()) {
    const c = ctx.shape.columns.find((x) => x.id === id);
    if (!c) continue;
    const read = ctx.kinds[c.kind].cell;
    if (!read) continue;
    const cell = row.cells[i] ?? { text: "" };
    const got = read(fieldOfColumn(c), cell, {
      reading: plan.reading,
      named: (text) => ctx.named(c.id, text),
    });
    if (!("kept" in got)) {
      const mistake: RowMistake = {
        code: "unnamed",
        column: c.name,
        text: got.text,
        why: got.why,
        registers: ctx.kinds[c.kind].links?.registers(c) ?? [],
      };
      return { mistake };
    }
    values[c.id] = got.kept;
  }
  return { values };
}

/** A number that is written in another way, as spreadsheets leave out noughts, is no change. */
function asItWas(ctx: PlanContext, values: RecordValues, before: StoredRecord): RecordValues {
  const same = (id: string, v: string | boolean | null): boolean => {
    const { range } = ctx.kinds[ctx.shape.columns.find((c) => c.id === id)!.kind].has;
    const was = before[id];
    if (range !== "number" || typeof v !== "string" || typeof was !== "string") return false;
    const [a, b] = [toNum(v), toNum(was)];
    return a !== null && b !== null && equalValues(a, b) === true;
  };
  return Object.fromEntries(Object.entries(values).map(([id, v]) => [id, same(id, v) ? before[id]! : v]));
}

/**
 * What a row of a sheet writes. Whether its register takes that is another question: it is decided like anything else
 * that is written.
 */
export function planRow(plan: SheetPlan, row: SheetRow, ctx: PlanContext): PlannedRow {
  const { line } = row;
  const refused = (mistake: RowMistake): PlannedRow => ({ line, as: "refused", mistake });
  const read = valuesOf(plan, row, ctx);
  if ("mistake" in read) return refused(read.mistake);
  const { values } = read;
  if (Object.values(values).every((v) => v === null)) return refused({ code: "empty-row" });
  // What a new record is not given begins as its column says; an empty cell gives nothing.
  const given = Object.fromEntries(Object.entries(values).filter(([, v]) => v !== null));
  const add: PlannedRow =
    plan.absent === "leave"
      ? { line, as: "left", why: "absent", before: null }
      : {
          line,
          as: "write",
          write: { op: "add", values: plan.empty === "empty" ? values : given },
          before: null,
        };
  if (plan.key === null) return add;
  const column = ctx.shape.columns.find((c) => c.id === plan.key)!.name;
  const value = values[plan.key] ?? null;
  if (value === null) return refused({ code: "no-key", column });
  const key = String(value);
  const earlier = ctx.keys.get(key);
  if (earlier !== undefined) return refused({ code: "key-twice", column, value: key, line: earlier });
  ctx.keys.set(key, line);
  const found = ctx.withKey(key);
  if (found.length > 1) return refused({ code: "key-several", column, value: key, count: found.length });
  const [mine] = found;
  if (!mine) return add;
  if (plan.there === "leave") return { line, as: "left", why: "there", before: mine.record };
  const change = asItWas(ctx, plan.empty === "empty" ? values : given, mine.record);
  return {
    line,
    as: "write",
    // What was changed between looking and writing is not written over.
    write: { op: "change", id: mine.record.id, values: change, seen: mine.version },
    before: mine.record,
  };
}
