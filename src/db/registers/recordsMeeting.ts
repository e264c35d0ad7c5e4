import {
  checkFormula,
  compile,
  environment,
  evaluate,
  isContext,
  YESNO,
  type FormulaProblem,
  type Names,
  type Scope,
} from "@/core/expression";
import {
  recordScope,
  type Facts,
  type FormSurrounding,
  type RecordRef,
  type RegisterShape,
} from "@/core/form";
import { findRecordIds, type RecordsSought } from "./findRecordIds";
import type { Db } from "../pool";
import { likePart } from "../likePart";
import { wordsLike } from "./indexes";
import { splitCondition } from "./splitCondition";

/** Records that are read one by one where a part of the condition is none for the database. */
export const MOST_READ = 5000;

/** What is looked for in a register. */
export interface RecordsMeeting extends Pick<RecordsSought, "sort" | "backwards"> {
  shape: RegisterShape;
  /** A formula over the columns, which come before the names outside; null for every record. */
  condition: string | null;
  /** The types of those names, and their values. */
  outside: Scope;
  names: Names;
  facts: Facts;
  /** So many and one more, which tells that there are more. */
  most: number;
  /** Words that stand in columns of it which whoever looks may see. */
  words?: { search: string; seen: RegisterShape };
  /** What must hold besides, which the database is asked. */
  also?: RecordsSought["where"];
  around: FormSurrounding;
  /** Facts with these records. */
  load(records: readonly RecordRef[]): Promise<Facts>;
  /** Milliseconds what is worked out beside the database may take. */
  ms: number;
}

/** Why records cannot be looked for: the condition has a mistake, or cannot be worked out for a value. */
export type NotFindable = { why: string; ofValue?: true };

/**
 * The ids of the records that meet a condition. Each part of it that can be SQL is asked of the database; the rest is
 * worked out for the records that leaves, at most so many. A condition that cannot be worked out finds nothing and leaves
 * nothing out. The caller limits how long the database may take.
 */
export async function recordsMeeting(db: Db, q: RecordsMeeting): Promise<string[] | NotFindable> {
  const { shape, sort, backwards, words } = q;
  const search = words?.search.trim() ?? "";
  const also: RecordsSought["where"] = [
    ...(q.also ?? []),
    ...(words && search
      ? [(bind: (v: unknown) => string) => wordsLike(words.seen, shape, bind(likePart(search))) ?? "false"]
      : []),
  ];
  if (q.condition === null)
    return findRecordIds(db, shape, { sort, backwards, where: also, limit: q.most + 1 });
  const split = splitCondition(q.condition, shape, q.around, q.outside);
  if ("why" in split) return split;
  const notes: FormulaProblem[] = [];
  const env = { ...environment(q.names, q.facts), notes };
  const limit = split.rest ? MOST_READ + 1 : q.most + 1;
  const where = split.conditions.map((c) => (bind: (v: unknown) => string) => c.where(env, bind));
  const ids = await findRecordIds(db, shape, { sort, backwards, where: [...also, ...where], limit });
  const failed = failure(notes);
  if (failed) return failed;
  return split.rest ? readOneByOne(q, split.rest, ids) : ids;
}

export function failure(notes: readonly FormulaProblem[]): NotFindable | null {
  const failed = notes.find((n) => n.code !== "was-empty");
  return failed ? { why: failed.message, ofValue: true } : null;
}

async function readOneByOne(
  q: RecordsMeeting,
  rest: string,
  ids: readonly string[],
): Promise<string[] | NotFindable> {
  const { shape } = q;
  if (ids.length > MOST_READ)
    return {
      why: `“${rest}” cannot be asked of the database, and more than ${MOST_READ} records are left to be read one by one. Add a condition that leaves fewer.`,
    };
  const facts = await q.load(ids.map((id) => ({ register: shape.key, id })));
  const { ast } = checkFormula(rest, { ...q.outside, ...recordScope(shape, q.around) }, YESNO);
  if (!ast) return { why: "it has a mistake." };
  const program = compile(ast);
  const columns = new Set(shape.columns.map((c) => c.name));
  const until = performance.now() + q.ms;
  const out: string[] = [];
  for (const id of ids) {
    if (performance.now() > until) return { why: "it takes too long to work out." };
    const record = facts.record(shape.key, id);
    const of = (name: string) => (isContext(record) ? (record.get(name) ?? null) : null);
    const names: Names = { get: (name) => (columns.has(name) ? of(name) : q.names.get(name)) };
    const notes: FormulaProblem[] = [];
    const yes = evaluate(program, { ...environment(names, facts), notes }) === true;
    const failed = failure(notes);
    if (failed) return failed;
    if (yes) out.push(id);
    if (out.length > q.most) return out;
  }
  return out;
}

/** Class 22 is data exceptions, 57014 a statement that took too long; anything else is a bug or the server. */
const TOO_LONG = "57014";

/** What is wrong with a search that the database gave up; null where that is not the search's doing. */
export function searchMistake(error: unknown): string | null {
  const code = (error as { code?: string }).code ?? "";
  if (code === TOO_LONG) return "it takes too long. Ask for fewer records, or by a column on its own.";
  return code.startsWith("22") ? "a value in a record cannot be worked with." : null;
}
