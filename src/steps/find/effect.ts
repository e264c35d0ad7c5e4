import { z } from "zod";
import type { EffectOf, Turn } from "@/core/engine";
import { environment, explainOver, type Clause, type Names, type Value } from "@/core/expression";
import { PEOPLE, PEOPLE_COLUMNS, recordTitle, type RegisterShape } from "@/core/form";
import { RouteScopes } from "@/core/route";
import { registers, type Db } from "@/db";
import { KINDS } from "@/kinds";
import type { CarriedOut, EffectContext, InsideEffect, LookingContext } from "../executor";
import { whyUntold } from "../overRecords";
import { findPeople } from "./people";
import type { FindResult } from "./shape";

type Sought = EffectOf<"find">;
type Found = CarriedOut<"find">;

/** Milliseconds a search may take, in the database and beside it: the request is locked meanwhile. */
const MOST_MS = 2000;
/** Records named on the trail. */
const NAMED = 4;

/**
 * Looks for records inside the command's transaction (`recordsMeeting`). A condition that cannot be worked out finds
 * nothing and leaves nothing out: the request stops with the reason.
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
      const why = registers.searchMistake(error);
      if (why === null) throw error;
      await db.query(BACK);
      return refused(ctx, why);
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
    const why = registers.searchMistake(error);
    if (why === null) throw error;
    return { why };
  }
}

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
  const turn = await ctx.turn();
  const around = { registers: ctx.registers, kinds: KINDS };
  const found = await registers.recordsMeeting(ctx.db, {
    shape,
    condition: e.where,
    sort: e.sort,
    backwards: e.backwards,
    outside: new RouteScopes(turn.release.definition, around).at(e.step),
    names: namesFor(e, turn),
    facts: turn.facts,
    most: e.most,
    around,
    load: (records) => ctx.facts(records),
    ms: MOST_MS,
  });
  if (Array.isArray(found)) return found;
  return { why: found.ofValue ? whyOf(e, turn, found.why) : found.why };
}

/** A reason may tell of fields that are hidden from somebody. */
function whyOf(e: Sought, turn: Turn, why: string): string {
  const f = turn.formula(e.step, "where", e.where!);
  return f ? whyUntold(turn, e.register, e.where!, f, why) : why;
}

const namesFor = (e: Sought, turn: Turn): Names => turn.names(e.scope ?? null);
