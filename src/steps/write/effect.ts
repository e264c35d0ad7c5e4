import { z } from "zod";
import type { EffectOf } from "@/core/engine";
import {
  Entity,
  type FormulaProblem,
  type Value,
  compile,
  environment,
  evaluate,
  parseFormula,
} from "@/core/expression";
import {
  recordScope,
  recordTitle,
  fieldValue,
  keptAs,
  type Facts,
  type RegisterShape,
  type Registers,
  type StoredRecord,
} from "@/core/form";
import { fieldOfColumn, type Fill, type RecordWrite, type WriteRefusal, type Wrote } from "@/core/records";
import { writeRefusalSentence } from "@/core/words";
import { FIELDS } from "@/fields/kinds";
import { registers } from "@/db";
import { columnsBefore, whyUntold } from "../overRecords";
import type { CarriedOut, InsideContext, InsideEffect } from "../executor";
import type { WriteReason, WrittenRecord } from "./shape";

type Written = CarriedOut<"write">;
type WriteEffect = EffectOf<"write">;

const scalar = z.union([z.string(), z.boolean(), z.null()]);

/**
 * Writes records inside the command's transaction: records are locked, the condition that must hold is read from
 * them as they are now, every change goes into the history. Either all of it is written or, on a failure, nothing.
 */
export const effect: InsideEffect<"write"> = {
  where: "inside",
  payload: z.object({
    kind: z.literal("write"),
    id: z.string(),
    step: z.string(),
    register: z.string(),
    op: z.enum(["add", "change", "remove", "put"]),
    rows: z.array(z.object({ record: z.string().nullable(), values: z.record(z.string(), scalar) })),
    own: z.array(z.object({ column: z.string(), value: z.string() })).optional(),
    key: z.string().optional(),
    clears: z.literal(true).optional(),
    must: z.string().nullable(),
    otherwise: z.enum(["stop", "leave"]),
    quietly: z.literal(true).optional(),
    many: z.literal(true).optional(),
  }),
  async carryOut(e, ctx) {
    const shape = ctx.registers[e.register];
    if (!shape) return refused(ctx, `there is no register "${e.register}"`);
    if (ctx.withdrawn(e.register))
      return refused(ctx, `${shape.name} may not be written by this process any more`);
    await ctx.db.query("savepoint write");
    const written = await write(e, shape, ctx);
    await ctx.db.query(written.ok ? "release savepoint write" : "rollback to savepoint write");
    return written;
  },
};

const refused = (ctx: InsideContext, message: string): Written => ({
  ok: false,
  reason: { code: "write-refused", data: { step: ctx.stepName, message } },
});

type Row = WriteEffect["rows"][number];

const writeOf = ({ op, clears }: WriteEffect, { record, values }: Row): RecordWrite => {
  if (record === null) return { op: "add", values };
  return op === "remove"
    ? { op, id: record, ...(clears ? { clears } : {}) }
    : { op: "change", id: record, values };
};

async function write(effect: WriteEffect, shape: RegisterShape, ctx: InsideContext): Promise<Written> {
  const { stepName: step } = ctx;
  const holds = effect.must ? mustProgram(effect.must, shape, ctx.registers) : null;
  const must =
    holds &&
    (async (r: StoredRecord) => {
      const is = holds(r, await ctx.facts());
      return typeof is === "string" ? `“${effect.must}” cannot be worked out: ${is}` : is;
    });
  const how = {
    ...(must ? { must } : {}),
    ...(effect.own ? { fill: await ownValues(effect, effect.own, shape, ctx) } : {}),
    ...(effect.quietly ? { quietly: true } : {}),
  };
  const wrote: Wrote[] = [];
  for await (const lot of lotsOf(effect, shape, ctx)) {
    if ("why" in lot) return refused(ctx, lot.why);
    wrote.push(...(await ctx.write(shape.key, lot.writes, how)));
  }
  const out: WrittenRecord[] = [];
  for (const w of wrote) {
    if (w.ok) {
      const did = w.change?.did ?? "changed";
      out.push({ register: shape.key, id: w.record.id, title: recordTitle(shape, w.record), did });
      continue;
    }
    const { why } = w;
    if (why.code === "must-not" && effect.otherwise === "leave") {
      out.push({
        register: shape.key,
        id: why.record.id,
        title: recordTitle(shape, why.record),
        did: "left alone",
      });
      continue;
    }
    return { ok: false, reason: reasonOf(why, effect, shape, ctx, step) };
  }
  return { ok: true, result: { records: out, ...(effect.many ? { many: true } : {}) }, records: out };
}

/**
 * The writes, in lots in which no record stands twice. Of those found again by a key each waits for the one before it
 * with the same, and nobody else adds one with it meanwhile.
 */
async function* lotsOf(
  effect: WriteEffect,
  shape: RegisterShape,
  ctx: InsideContext,
): AsyncGenerator<{ writes: RecordWrite[] } | { why: string }> {
  const { key } = effect;
  if (effect.op !== "put" || key === undefined)
    return yield { writes: effect.rows.map((r) => writeOf(effect, r)) };
  const column = shape.columns.find((c) => c.id === key);
  if (!column) return yield { why: `${shape.name} has no column "${key}"` };
  const valueOf = (r: Row) => ((r.values[key] ?? "") === "" ? null : String(r.values[key]));
  if (effect.rows.some((r) => valueOf(r) === null))
    return yield { why: `${column.name} is empty, and by it records are found again` };
  const keys = [...new Set(effect.rows.map((r) => valueOf(r)!))].sort();
  await holdKeys(ctx.db, shape, key, keys);
  for (let left = effect.rows; left.length > 0;) {
    const first = new Map(left.map((r) => [valueOf(r)!, r] as const).reverse());
    const there = await registers.recordsWithAny(ctx.db, shape, key, [...first.keys()]);
    const several = [...there].find(([, records]) => records.length > 1);
    if (several)
      return yield { why: `several records of ${shape.name} have "${several[0]}" as their ${column.name}` };
    const lot = left.filter((r) => first.get(valueOf(r)!) === r);
    yield {
      writes: lot.map((r) => writeOf(effect, { ...r, record: there.get(valueOf(r)!)?.[0]?.id ?? null })),
    };
    left = left.filter((r) => first.get(valueOf(r)!) !== r);
  }
}

/** Until the transaction ends nobody else puts a record with one of these; in one order, so that none wait for each other. */
const holdKeys = (db: InsideContext["db"], shape: RegisterShape, key: string, keys: readonly string[]) =>
  db.query("select pg_advisory_xact_lock(hashtextextended($1 || k, 0)) from unnest($2::text[]) k", [
    `${shape.key}/${key}/`,
    keys,
  ]);

/** What is written of each record, worked out over its columns as they are once it is locked. */
async function ownValues(
  effect: WriteEffect,
  own: NonNullable<WriteEffect["own"]>,
  shape: RegisterShape,
  ctx: InsideContext,
): Promise<Fill> {
  const turn = await ctx.turn();
  const outer = turn.names(effect.scope ?? null);
  const formulas = own.map((v) => ({
    column: shape.columns.find((c) => c.id === v.column),
    text: v.value,
    formula: turn.formula(effect.step, `value ${v.column}`, v.value),
  }));
  return async (record) => {
    const links = shape.columns.flatMap((c) => {
      const raw = record[c.id];
      const to = typeof raw === "string" ? FIELDS[c.kind].links?.target(c, raw) : null;
      return to ? [to] : [];
    });
    const facts = await ctx.facts(links);
    const column = (name: string): Value => {
      const c = shape.columns.find((x) => x.name === name)!;
      return fieldValue(c, record[c.id], FIELDS, facts);
    };
    const names = columnsBefore(shape, column, outer);
    const values: Record<string, string | boolean | null> = {};
    for (const { column: c, text, formula } of formulas) {
      if (!c || !formula) return `“${text}” has a mistake.`;
      const notes: FormulaProblem[] = [];
      const v = evaluate(formula.program, { ...environment(names, facts), notes });
      const failed = notes.find((n) => n.code !== "was-empty");
      const kept = failed ? { why: failed.message } : keptAs(fieldOfColumn(c), v, FIELDS, facts);
      if ("why" in kept) return whyUntold(turn, shape.key, text, formula, kept.why);
      values[c.id] = kept.kept;
    }
    return values;
  };
}

function reasonOf(
  why: WriteRefusal,
  effect: WriteEffect,
  shape: RegisterShape,
  ctx: InsideContext,
  step: string,
): WriteReason {
  if (why.code === "gone") return { code: "no-record", data: { step, formula: `${shape.one} ${why.id}` } };
  if (why.code === "must-not")
    return {
      code: "must-not",
      data: { step, record: recordTitle(shape, why.record), condition: effect.must! },
    };
  // What cannot be told must neither pass for yes nor, by leaving the record alone, for no.
  const message =
    why.code === "unclear"
      ? `for ${recordTitle(shape, why.record)} ${why.why}`
      : writeRefusalSentence(why, shape, ctx.registers);
  return { code: "write-refused", data: { step, message } };
}

function mustProgram(
  text: string,
  shape: RegisterShape,
  all: Registers,
): (r: StoredRecord, facts: Facts) => boolean | string {
  const { ast } = parseFormula(text, recordScope(shape, { registers: all, kinds: { fields: FIELDS } }));
  const program = ast ? compile(ast) : null;
  return (r, facts) => {
    const names = new Map<string, Value>(
      shape.columns.map((c) => [
        c.name,
        // Links are compared by what they point at, not followed.
        fieldValue(c, r[c.id], FIELDS, {
          ...facts,
          isRecord: () => true,
          record: (register, id) => new Entity(register, id, []),
        }),
      ]),
    );
    if (program === null) return "it has a mistake";
    const notes: FormulaProblem[] = [];
    const yes = evaluate(program, { ...environment(names, facts), notes }) === true;
    return notes.find((n) => n.code !== "was-empty")?.message ?? yes;
  };
}
