import type { CompiledRelease } from "@/core/engine";
import {
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

/** What checks of a form ask of records, looked for; in a transaction what was done in it so far counts. */
export async function answerAsked(
  db: Db,
  asked: readonly RecordsAsked[],
  on: Asking,
): Promise<NonNullable<FactsData["asked"]>> {
  if (asked.length === 0) return {};
  const out: Record<string, RecordsAnswer> = {};
  const until = performance.now() + MOST_MS;
  await db.query(`savepoint asked; set local statement_timeout = ${MOST_MS}`);
  for (const a of asked) {
    if (Object.hasOwn(out, a.key)) continue;
    if (performance.now() > until) {
      out[a.key] = { why: "it takes too long to look for all of it." };
      continue;
    }
    try {
      out[a.key] = await answered(db, a, on);
    } catch (error) {
      const why = registers.searchMistake(error);
      if (why === null) throw error;
      await db.query("rollback to savepoint asked");
      await db.query(`set local statement_timeout = ${MOST_MS}`);
      out[a.key] = { why };
    }
  }
  // What was set for it ends with it; nothing was written.
  await db.query("rollback to savepoint asked; release savepoint asked");
  return out;
}

async function answered(db: Db, a: RecordsAsked, on: Asking): Promise<RecordsAnswer> {
  const { d, release } = on;
  const at = findField(release.definition.fields, a.field);
  const check = at?.field.checks?.[a.check];
  if (!at || !check?.records) return { why: "the check is not there any more." };
  const { register } = check.records;
  const shape = d.registers[register];
  if (!shape) return { why: `there is no register "${register}".` };
  if (on.withdrawn(register)) return { why: `${shape.name} may not be read by this process any more.` };
  const found = await registers.recordsMeeting(db, {
    shape,
    condition: check.must,
    sort: [],
    backwards: false,
    outside: scopeOf(release.definition.fields, at, d),
    names: a.names,
    facts: on.facts,
    most: 1,
    around: { registers: d.registers, kinds: KINDS },
    load: (records) => on.load(records),
    ms: MOST_MS,
  });
  return Array.isArray(found) ? { there: found.length > 0 } : found;
}

const scopeOf = (
  fields: readonly Field[],
  { parents }: { parents: readonly Field[] },
  { registers: all }: Directory,
) => aroundRecords(fields, parents, { registers: all, kinds: KINDS });
