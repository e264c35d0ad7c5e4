import { z } from "zod";
import type { EffectOf, Turn } from "@/core/engine";
import {
  checkFormula,
  compile,
  environment,
  explainOver,
  evaluate,
  isContext,
  YESNO,
  type Clause,
  type FormulaProblem,
  type Names,
  type Scope,
  type Value,
} from "@/core/expression";
import { PEOPLE, PEOPLE_COLUMNS, recordScope, recordTitle, type RegisterShape } from "@/core/form";
import { RouteScopes } from "@/core/route";
import { findRecordIds, registers, type Db } from "@/db";
import { KINDS } from "@/kinds";
import type { CarriedOut, EffectContext, InsideEffect, LookingContext } from "../executor";
import { columnsBefore, whyUntold } from "../overRecords";
import { findPeople } from "./people";
import type { FindResult } from "./shape";

type Sought = EffectOf<"find">;
type Found = CarriedOut<"find">;

/** Records that are read one by one where a part of the condition is none for the database. */
const MOST_READ = 5000;
/** Milliseconds a search may take, in the database and beside it: the request is locked meanwhile. */
const MOST_MS = 2000;
/** Records named on the trail. */
const NAMED = 4;

/**
 * Looks for records inside the command's transaction. Each part of the condition that can be SQL is asked of the
 * database; the rest is worked out for the records that leaves, at most so many. A condition that cannot be worked out
 * finds nothing and leaves nothing out: the request stops with the reason.
 */
export const effect: InsideEffect<"find"> = {
  where: "inside",
  payload: z.object({
    kind: z.literal("find"),
    id: z.string(),
    step: z.string(),
    scope: z.string().optional(),
    register: z.string(),
    where: z.string().nullable(),
    sort: z.array(z.object({ column: z.string(), descending: z.literal(true).optional() })),
    backwards: z.boolean(),
    most: z.number(),
  }),
  async carryOut(e, ctx) {
    if (e.register === PEOPLE) {
      const found = await peopleFound(e, ctx);
      return "why" in found ? refused(ctx, found.why) : { ok: true, result: found };
    }
    const shape = ctx.registers[e.register];
    const none = whyNot(e, ctx);
    if (!shape || none) return refused(ctx, none ?? "");
    const { db } = ctx;
    const began = performance.now();
    await db.query(`savepoint find; set local statement_timeout = ${MOST_MS}`);
    try {
      const ids = await searchRecords(e, shape, ctx);
      await db.query(BACK);
      if (!Array.isArray(ids)) return refused(ctx, ids.why);
      const taken = ids.slice(0, e.most);
      const titles = await titlesOf(db, shape, taken);
      const read = (await ctx.turn()).release.stepsRead.has(e.step);
      const records = read ? taken.map((id) => ({ register: shape.key, id })) : [];
      const found = { register: shape.key, ids: taken, titles, more: ids.length > taken.length };
      const asked = await askedWith(e, new Set(shape.columns.map((c) => c.name)), ctx);
      return { ok: true, result: { ...found, asked, ms: Math.ceil(performance.now() - began) }, records };
    } catch (error) {
      const code = (error as { code?: string }).code ?? "";
      if (!isSearchError(code)) throw error;
      await db.query(BACK);
      return refused(ctx, errorWords(code));
    }
  },
  async look(e, ctx) {
    const found = await looked(e, ctx);
    if ("why" in found) return refused(ctx, found.why);
    const records = e.register === PEOPLE ? [] : found.ids.map((id) => ({ register: e.register, id }));
    return { ok: true, result: found, records };
  },
  async preview(e, ctx) {
    const found = await looked(e, ctx);
    if ("why" in found) return { ok: false, why: found.why };
    return { ok: true, things: found.titles, count: found.ids.length, more: found.more };
  },
};

/** People of the office: all of them are at hand, and nothing is asked of the database. */
async function peopleFound(e: Sought, ctx: LookingContext): Promise<FindResult | { why: string }> {
  const began = performance.now();
  const turn = await ctx.turn();
  const f = e.where === null ? null : turn.formula(e.step, "where", e.where);
  if (e.where !== null && !f) return { why: "it has a mistake." };
  const ids = findPeople(turn.facts, {
    where: f?.ast ?? null,
    sort: e.sort,
    backwards: e.backwards,
    most: e.most,
    outer: namesFor(e, turn),
    late: () => performance.now() - began > MOST_MS,
  });
  if (!Array.isArray(ids)) return { why: e.where === null ? ids.why : whyOf(e, turn, ids.why) };
  const taken = ids.slice(0, e.most);
  const titles = taken.slice(0, NAMED).map((id) => nameIn(turn.facts.person(id)));
  const asked = await askedWith(e, new Set(PEOPLE_COLUMNS.map((c) => c.name)), ctx);
  const ms = Math.ceil(performance.now() - began);
  return { register: PEOPLE, ids: taken, titles, more: ids.length > taken.length, asked, ms };
}
const nameIn = (person: ReadonlyMap<string, Value>): string => {
  const name = person.get("name");
  return typeof name === "string" ? name : "";
};

/** Why a register is not searched; null where it may be. */
function whyNot(e: Sought, ctx: LookingContext): string | null {
  const shape = ctx.registers[e.register];
  if (!shape) return `there is no register "${e.register}".`;
  return ctx.withdrawn(e.register) ? `${shape.name} may not be read by this process any more.` : null;
}

/** What is found, with nothing done beside it. */
async function looked(e: Sought, ctx: LookingContext): Promise<FindResult | { why: string }> {
  if (e.register === PEOPLE) return peopleFound(e, ctx);
  const shape = ctx.registers[e.register];
  const none = whyNot(e, ctx);
  if (!shape || none) return { why: none ?? "" };
  try {
    const ids = await searchRecords(e, shape, ctx);
    if (!Array.isArray(ids)) return { why: ids.why };
    const taken = ids.slice(0, e.most);
    const titles = await titlesOf(ctx.db, shape, taken);
    return { register: shape.key, ids: taken, titles, more: ids.length > taken.length };
  } catch (error) {
    const code = (error as { code?: string }).code ?? "";
    if (!isSearchError(code)) throw error;
    return { why: errorWords(code) };
  }
}

/** Class 22 is data exceptions, 57014 a statement that took too long; anything else is a bug or the server. */
const isSearchError = (code: string): boolean => code.startsWith("22") || code === TOO_LONG;
const TOO_LONG = "57014";
const errorWords = (code: string): string =>
  code === TOO_LONG
    ? "it takes too long. Ask for fewer records, or by a column on its own."
    : "a value in a record cannot be worked with.";

/** The condition with the values it was asked with, for the trail. */
async function askedWith(
  e: Sought,
  columns: ReadonlySet<string>,
  ctx: Pick<LookingContext, "turn">,
): Promise<Clause[]> {
  if (e.where === null) return [];
  const turn = await ctx.turn();
  const f = turn.formula(e.step, "where", e.where);
  if (!f) return [];
  const env = environment(namesFor(e, turn), turn.facts);
  return explainOver(e.where, f.ast, f.reads, env, columns).map((c) => ({
    ...c,
    // What a record has is read by its name alone: whose column it is tells who may see it.
    reads: c.reads.map((r) => (columns.has(r) ? `record ${e.register}.${r}` : r)),
  }));
}

/** What the first few are called. */
async function titlesOf(db: Db, shape: RegisterShape, ids: readonly string[]): Promise<string[]> {
  const first = ids.slice(0, NAMED);
  const rows = new Map((await registers.recordsByIds(db, shape, first)).map((r) => [r.id, r]));
  return first.flatMap((id) => (rows.has(id) ? [recordTitle(shape, rows.get(id)!)] : []));
}

/** What was set for the search ends with it; nothing was written. */
const BACK = "rollback to savepoint find; release savepoint find";

const refused = (ctx: Pick<EffectContext, "stepName">, message: string): Found => ({
  ok: false,
  reason: { code: "cannot-find", data: { step: ctx.stepName, message } },
});

/** The ids in order, one more than are taken where there are more; or why it cannot be told. */
async function searchRecords(
  e: Sought,
  shape: RegisterShape,
  ctx: LookingContext,
): Promise<string[] | { why: string }> {
  const sought = { sort: e.sort, backwards: e.backwards };
  if (e.where === null) return findRecordIds(ctx.db, shape, { ...sought, where: [], limit: e.most + 1 });
  const turn = await ctx.turn();
  const around = { registers: ctx.registers, kinds: KINDS };
  const outside = new RouteScopes(turn.release.definition, around).at(e.step);
  const split = registers.splitCondition(e.where, shape, around, outside);
  if ("why" in split) return split;
  const notes: FormulaProblem[] = [];
  const env = { ...environment(namesFor(e, turn), turn.facts), notes };
  const limit = split.rest ? MOST_READ + 1 : e.most + 1;
  const where = split.conditions.map((c) => (bind: (v: unknown) => string) => c.where(env, bind));
  const ids = await findRecordIds(ctx.db, shape, { ...sought, where, limit });
  const failed = notes.find((n) => n.code !== "was-empty");
  if (failed) return { why: whyOf(e, turn, failed.message) };
  return split.rest ? readOneByOne(e, shape, ctx, turn, split.rest, ids) : ids;
}

/** A reason may tell of fields that are hidden from somebody. */
function whyOf(e: Sought, turn: Turn, why: string): string {
  const f = turn.formula(e.step, "where", e.where!);
  return f ? whyUntold(turn, e.register, e.where!, f, why) : why;
}

const namesFor = (e: Sought, turn: Turn): Names => turn.names(e.scope ?? null);

async function readOneByOne(
  e: Sought,
  shape: RegisterShape,
  ctx: LookingContext,
  turn: Turn,
  rest: string,
  ids: readonly string[],
): Promise<string[] | { why: string }> {
  if (ids.length > MOST_READ)
    return {
      why: `“${rest}” cannot be asked of the database, and more than ${MOST_READ} records are left to be read one by one. Add a condition that leaves fewer.`,
    };
  const facts = await ctx.facts(ids.map((id) => ({ register: shape.key, id })));
  const around = { registers: ctx.registers, kinds: KINDS };
  const outside = new RouteScopes(turn.release.definition, around).at(e.step);
  const scope: Scope = { ...outside, ...recordScope(shape, around) };
  const { ast } = checkFormula(rest, scope, YESNO);
  if (!ast) return { why: "it has a mistake." };
  const program = compile(ast);
  const outer = namesFor(e, turn);
  const until = performance.now() + MOST_MS;
  const out: string[] = [];
  for (const id of ids) {
    if (performance.now() > until) return { why: "it takes too long to work out." };
    const record = facts.record(shape.key, id);
    const names = columnsBefore(shape, (n) => (isContext(record) ? (record.get(n) ?? null) : null), outer);
    const notes: FormulaProblem[] = [];
    const yes = evaluate(program, { ...environment(names, facts), notes }) === true;
    const failed = notes.find((n) => n.code !== "was-empty");
    if (failed) return { why: whyOf(e, turn, failed.message) };
    if (yes) out.push(id);
    // One more than are taken tells that there are more.
    if (out.length > e.most) return out;
  }
  return out;
}
