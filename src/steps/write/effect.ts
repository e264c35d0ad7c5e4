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
  type Facts,
  type RegisterShape,
  type Registers,
  type StoredRecord,
} from "@/core/form";
import type { RecordWrite, WriteRefusal } from "@/core/records";
import { writeRefusalSentence } from "@/core/words";
import { FIELDS } from "@/fields/kinds";
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
    op: z.enum(["add", "change", "remove"]),
    rows: z.array(z.object({ record: z.string().nullable(), values: z.record(z.string(), scalar) })),
    must: z.string().nullable(),
    otherwise: z.enum(["stop", "leave"]),
    quietly: z.literal(true).optional(),
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

const writeOf = (op: WriteEffect["op"], { record, values }: WriteEffect["rows"][number]): RecordWrite => {
  if (record === null) return { op: "add", values };
  return op === "remove" ? { op, id: record } : { op: "change", id: record, values };
};

async function write(effect: WriteEffect, shape: RegisterShape, ctx: InsideContext): Promise<Written> {
  const { stepName: step } = ctx;
  const holds = effect.must ? mustProgram(effect.must, shape, ctx.registers) : null;
  const must = holds && (async (r: StoredRecord) => holds(r, await ctx.facts()));
  const writes = effect.rows.map((r) => writeOf(effect.op, r));
  const wrote = await ctx.write(shape.key, writes, {
    ...(must ? { must } : {}),
    ...(effect.quietly ? { quietly: true } : {}),
  });
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
  return { ok: true, result: { records: out }, records: out };
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
  const message =
    why.code === "unclear"
      ? // What cannot be told must neither pass for yes nor, by leaving the record alone, for no.
        `for ${recordTitle(shape, why.record)} “${effect.must}” cannot be worked out: ${why.why}`
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
