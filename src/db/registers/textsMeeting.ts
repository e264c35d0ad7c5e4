import { environment, type FormulaProblem } from "@/core/expression";
import { isOneOfAmong, MAX_TEXT } from "@/core/form";
import type { RecordsSought } from "./findRecordIds";
import { likePart } from "../likePart";
import type { Db } from "../pool";
import { quoted, tableOf } from "./names";
import { failure, MOST_READ, recordsMeeting, type NotFindable, type RecordsMeeting } from "./recordsMeeting";
import { splitCondition } from "./splitCondition";

/** Which texts of a column are looked for. */
export interface TextsMeeting extends Omit<RecordsMeeting, "sort" | "backwards" | "words" | "also"> {
  /** Id of the column, which holds text. */
  column: string;
  /** A part of them. */
  search?: string;
  /** No others. */
  only?: readonly string[];
}

/**
 * What stands in a column of the records that meet a condition, each text once, in order; of those that can be chosen
 * (`isOneOfAmong`) at most `most`. The caller limits how long the database may take.
 */
export async function textsMeeting(db: Db, q: TextsMeeting): Promise<string[] | NotFindable> {
  const { shape, condition } = q;
  const at = `t.${quoted(q.column)}::text`;
  const search = q.search?.trim() ?? "";
  const { only } = q;
  const also: RecordsSought["where"] = [
    () => `btrim(${at}) <> '' and length(${at}) <= ${MAX_TEXT} and position(chr(10) in ${at}) = 0`,
    ...(search ? [(bind: (v: unknown) => string) => `${at} ilike ${bind(likePart(search))}`] : []),
    ...(only ? [(bind: (v: unknown) => string) => `${at} = any (${bind(only)}::text[])`] : []),
  ];
  const split = condition === null ? null : splitCondition(condition, shape, q.around, q.outside);
  if (split && "why" in split) return split;
  if (split?.rest) {
    const ids = await recordsMeeting(db, { ...q, sort: [], backwards: false, also, most: MOST_READ });
    if (!Array.isArray(ids)) return ids;
    return distinct(db, q, at, [...also, (bind) => `t.id = any (${bind(ids)}::bigint[])`]);
  }
  const notes: FormulaProblem[] = [];
  const env = { ...environment(q.names, q.facts), notes };
  const where = (split?.conditions ?? []).map((c) => (bind: (v: unknown) => string) => c.where(env, bind));
  // Their values are put in as the statement is written.
  const found = await distinct(db, q, at, [...also, ...where]);
  return failure(notes) ?? found;
}

async function distinct(
  db: Db,
  { shape, most }: Pick<TextsMeeting, "shape" | "most">,
  at: string,
  where: RecordsSought["where"],
): Promise<string[]> {
  const values: unknown[] = [];
  const bind = (v: unknown) => `$${values.push(v)}`;
  const all = where.map((w) => `(${w(bind)})`).join(" and ");
  const { rows } = await db.query(
    `
      select distinct ${at} as text
      from ${tableOf(shape.key)} t
      where ${all}
      order by 1
      limit ${bind(most)}
    `,
    values,
  );
  return rows.map((r) => String(r.text)).filter(isOneOfAmong);
}
