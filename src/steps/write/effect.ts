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
} from "@/core/form";
import { FIELDS } from "@/fields/kinds";
import { at, bumpDuties, registers, ROLE_HOLDERS, type RecordRow } from "@/db";
import type { CarriedOut, EffectContext, InsideEffect } from "../executor";
import type { WrittenRecord } from "./shape";

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
  }),
  async carryOut(e, ctx) {
    const shape = ctx.registers[e.register];
    if (!shape) return refused(ctx, `there is no register "${e.register}"`);
    if (ctx.withdrawn(e.register))
      return refused(ctx, `${shape.name} may not be written by this process any more`);
    const { db } = ctx;
    // A value the table refuses must not take the whole command down with it.
    await db.query("savepoint write");
    try {
      const written = await write(e, shape, ctx);
      await db.query(written.ok ? "release savepoint write" : "rollback to savepoint write");
      // Who holds which duty is a part of the directory.
      if (written.ok && shape.key === ROLE_HOLDERS) await bumpDuties(db);
      return written;
    } catch (error) {
      const code = (error as { code?: string }).code ?? "";
      // Class 22 is data exceptions, 23 integrity constraints; anything else is a bug or the server.
      if (!/^2[23]/.test(code)) throw error;
      await db.query("rollback to savepoint write");
      return refused(ctx, constraintWords(code, shape));
    }
  },
};

const refused = (ctx: EffectContext, message: string): Written => ({
  ok: false,
  reason: { code: "write-refused", data: { step: ctx.stepName, message } },
});

function constraintWords(code: string, shape: RegisterShape): string {
  if (code === "23505")
    return `${shape.name} already has a ${shape.one} with this ${shape.key_column ?? "key"}`;
  if (code === "23502") return `a column of ${shape.name} that is needed would be empty`;
  if (code === "23503") return `it points at a record that is not there, or something still points at it`;
  return `a value does not fit its column in ${shape.name}`;
}

async function write(effect: WriteEffect, shape: RegisterShape, ctx: EffectContext): Promise<Written> {
  const { db, stepName: step } = ctx;
  const out: WrittenRecord[] = [];
  const ids = [...new Set(effect.rows.flatMap((r) => (r.record === null ? [] : [r.record])))];
  const found = new Map<string, RecordRow>();
  if (ids.length > 0) for (const r of await registers.lockRecords(db, shape, ids)) found.set(r.id, r);
  const must = effect.must ? mustProgram(effect.must, shape, ctx.registers) : null;
  for (const row of effect.rows) {
    if (row.record === null) {
      const made = await registers.insertRecord(db, shape, row.values);
      await note(shape, made.id, ctx, "added", null, made);
      out.push({ register: shape.key, id: made.id, title: recordTitle(shape, made), did: "added" });
      continue;
    }
    const before = found.get(row.record);
    if (!before)
      return {
        ok: false,
        reason: { code: "no-record", data: { step, formula: `${shape.one} ${row.record}` } },
      };
    const title = recordTitle(shape, before);
    const held = must ? must(before, await ctx.facts()) : true;
    // What cannot be told must neither pass for yes nor, by leaving the record alone, for no.
    if (typeof held === "string")
      return refused(ctx, `for ${title} “${effect.must}” cannot be worked out: ${held}`);
    if (!held) {
      if (effect.otherwise === "stop")
        return {
          ok: false,
          reason: { code: "must-not", data: { step, record: title, condition: effect.must! } },
        };
      out.push({ register: shape.key, id: row.record, title, did: "left alone" });
      continue;
    }
    if (effect.op === "remove") {
      await registers.deleteRecord(db, shape, row.record);
      await note(shape, row.record, ctx, "removed", before, null);
      out.push({ register: shape.key, id: row.record, title, did: "removed" });
      continue;
    }
    const after = (await registers.updateRecord(db, shape, row.record, row.values))!;
    // The same record twice in one step: the second write must see the first.
    found.set(row.record, after);
    if (JSON.stringify(before) !== JSON.stringify(after))
      await note(shape, row.record, ctx, "changed", before, after);
    out.push({ register: shape.key, id: row.record, title: recordTitle(shape, after), did: "changed" });
  }
  return { ok: true, result: { records: out }, records: out };
}

function mustProgram(
  text: string,
  shape: RegisterShape,
  all: Registers,
): (r: RecordRow, facts: Facts) => boolean | string {
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

const note = (
  shape: RegisterShape,
  record: string,
  ctx: EffectContext,
  did: "added" | "changed" | "removed",
  before: RecordRow | null,
  after: RecordRow | null,
) => {
  // Only what changed is worth keeping of a change.
  const keys =
    before && after
      ? shape.columns.map((c) => c.id).filter((k) => before[k] !== after[k])
      : shape.columns.map((c) => c.id);
  const pick = (r: RecordRow | null) => (r ? Object.fromEntries(keys.map((k) => [k, r[k] ?? null])) : null);
  return registers.insertHistory(ctx.db, {
    register: shape.key,
    record,
    at: at(ctx.at)!,
    by: ctx.by,
    request: ctx.number,
    did,
    before: pick(before),
    after: pick(after),
  });
};
