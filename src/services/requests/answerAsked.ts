import type { CompiledRelease } from "@/core/engine";
import {
  columnAmong,
  findField,
  aroundRecords,
  type Facts,
  type FactsData,
  type Field,
  type RecordRef,
  type RecordsAnswer,
  type RecordsAsked,
} from "@/core/form";
import { registers, type Db } from "@/db";
import { KINDS } from "@/kinds";
import type { Directory } from "../kernel/directory";

/** Milliseconds all that a form asks of records may take: the request may be locked meanwhile. */
const MOST_MS = 2000;

/** What is looked in, and over what. */
export interface Asking {
  d: Directory;
  release: Pick<CompiledRelease, "definition">;
  /** Facts the conditions are worked out with, and the same with these records. */
  facts: Facts;
  load(records: readonly RecordRef[]): Promise<Facts>;
  /** Whether a register may not be read by this process any more. */
  withdrawn(register: string): boolean;
}

/** What a form asks of records, looked for; in a transaction what was done in it so far counts. */
export async function answerAsked(
  db: Db,
  asked: readonly RecordsAsked[],
  on: Asking,
): Promise<NonNullable<FactsData["asked"]>> {
  if (asked.length === 0) return {};
  const out: Record<string, RecordsAnswer> = {};
  const until = performance.now() + MOST_MS;
  await db.query(`savepoint asked; set local statement_timeout = ${MOST_MS}`);
  for (const alike of searchesOf(asked)) {
    if (performance.now() > until) {
      for (const a of alike) out[a.key] = { why: "it takes too long to look for all of it." };
      continue;
    }
    try {
      Object.assign(out, await answered(db, alike, on));
    } catch (error) {
      const why = registers.searchMistake(error);
      if (why === null) throw error;
      await db.query("rollback to savepoint asked");
      await db.query(`set local statement_timeout = ${MOST_MS}`);
      for (const a of alike) out[a.key] = { why };
    }
  }
  // What was set for it ends with it; nothing was written.
  await db.query("rollback to savepoint asked; release savepoint asked");
  return out;
}

/** What is asked, by what one search answers together; each question once. */
function searchesOf(asked: readonly RecordsAsked[]): RecordsAsked[][] {
  const out = new Map<string, Map<string, RecordsAsked>>();
  for (const a of asked) {
    const search = "alike" in a.about ? `alike ${a.about.alike}` : a.key;
    out.set(search, (out.get(search) ?? new Map<string, RecordsAsked>()).set(a.key, a));
  }
  return [...out.values()].map((alike) => [...alike.values()]);
}

/** @param alike what one search answers, which is over the same field, condition and values */
async function answered(
  db: Db,
  alike: readonly RecordsAsked[],
  on: Asking,
): Promise<Record<string, RecordsAnswer>> {
  const { d, release } = on;
  const first = alike[0]!;
  const all = (answer: RecordsAnswer) => Object.fromEntries(alike.map((a) => [a.key, answer]));
  const at = findField(release.definition.fields, first.field);
  const check = "check" in first.about ? at?.field.checks?.[first.about.check] : null;
  const register = check ? check.records?.register : at?.field.among?.register;
  if (!at || register === undefined) return all({ why: "it is not there any more." });
  const shape = d.registers[register];
  if (!shape) return all({ why: `there is no register "${register}".` });
  if (on.withdrawn(register)) return all({ why: `${shape.name} may not be read by this process any more.` });
  const sought = {
    shape,
    outside: scopeOf(release.definition.fields, at, d),
    names: first.names,
    facts: on.facts,
    around: { registers: d.registers, kinds: KINDS },
    load: (records: readonly RecordRef[]) => on.load(records),
    ms: MOST_MS,
  };
  if (check) {
    const condition = check.must;
    const found = await registers.recordsMeeting(db, {
      ...sought,
      condition,
      sort: [],
      backwards: false,
      most: 1,
    });
    return all(Array.isArray(found) ? { there: found.length > 0 } : found);
  }
  const column = columnAmong(at.field, shape, KINDS.fields);
  if (!column) return all({ why: `${shape.name} has no such column any more.` });
  const chosen = alike.flatMap((a) => ("chosen" in a.about ? [a.about.chosen] : []));
  const found = await registers.textsMeeting(db, {
    ...sought,
    condition: at.field.offered ?? null,
    column: column.id,
    only: chosen,
    most: chosen.length,
  });
  if (!Array.isArray(found)) return all(found);
  const there = new Set(found);
  return Object.fromEntries(
    alike.map((a) => [a.key, { there: "chosen" in a.about && there.has(a.about.chosen) }]),
  );
}

const scopeOf = (
  fields: readonly Field[],
  { parents }: { parents: readonly Field[] },
  { registers: all }: Directory,
) => aroundRecords(fields, parents, { registers: all, kinds: KINDS });
