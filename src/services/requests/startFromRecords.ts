import { filledBy } from "@/core/records";
import type { Party } from "@/core/form";
import { becauseWords } from "@/core/words";
import { at, getPool, inTransaction, notices, processes, recordStarts, type Db } from "@/db";
import { nowMs } from "../kernel/clock";
import { defineView } from "../kernel/defineUseCase";
import { loadDirectory, type Directory } from "../kernel/directory";
import { definitionNow } from "../kernel/definitionNow";
import { Failed } from "../kernel/failure";
import { sentenceOf } from "../kernel/sentence";
import { recordProgramOf } from "../registers/recordPrograms";
import { startProgram } from "../registers/startsByRecords";
import { engineFacts, factsReader } from "./facts";
import { badForm, NotStarted } from "./notStarted";
import { makeRequest } from "./makeRequest";

/** Milliseconds one job goes on; then another takes its place, so that none is taken for dead. */
const AT_MOST_MS = 20_000;
/** Requests made side by side. */
const SIDE_BY_SIDE = 3;
/** So many are asked for at a time. */
const AT_ONCE = 500;

type Row = recordStarts.RecordStartRow;

/**
 * Makes the requests that records have started, each once, of one process and record in their order. Called by a
 * worker; side by side and twice over it makes none twice.
 * @returns whether something was left for another job
 */
export const startFromRecords = defineView(["run jobs"], async (c): Promise<{ more: boolean }> => {
  if (!c.may({ action: "run jobs" })) return { more: false };
  const end = performance.now() + AT_MOST_MS;
  const db = getPool();
  for (let made = -1; made !== 0 && performance.now() < end;) {
    made = 0;
    const now = await nowMs(db);
    const due = await recordStarts.dueRecordStarts(db, at(now)!, AT_ONCE);
    const one = async (): Promise<void> => {
      for (let id = due.shift(); id !== undefined; id = due.shift())
        // What came of the same record since is next, so that many changes of one do not wait for another search.
        for (let next: string | null = id; next !== null && performance.now() < end; made++) {
          const done: { next: string | null } | null = await startOne(next, now);
          if (!done) break;
          ({ next } = done);
        }
    };
    await Promise.all(Array.from({ length: SIDE_BY_SIDE }, one));
    // Nothing is left, or another worker is at what is.
    if (made === 0) return { more: false };
  }
  await recordStarts.queueRecordStarts(db);
  return { more: true };
});

/** Makes the request of one whose turn it is; null where it is no more. @returns the next of the same process and record */
const startOne = (id: string, now: number): Promise<{ next: string | null } | null> =>
  inTransaction(async (db) => {
    const row = await recordStarts.takeRecordStart(db, id, at(now)!);
    if (!row) return null;
    await db.query("savepoint started");
    try {
      const made = await make(db, row, now);
      return {
        next: await recordStarts.recordStartDone(db, id, { at: at(now)!, request: made.id, why: null }),
      };
    } catch (e) {
      const why = await whyNot(e);
      await db.query("rollback to savepoint started");
      await tellOwners(db, row, why, now);
      return { next: await recordStarts.recordStartDone(db, id, { at: at(now)!, request: null, why }) };
    }
  });

/** Why there is no request, where that is nothing a later try would change; throws anything else. */
export async function whyNot(e: unknown): Promise<string> {
  if (e instanceof NotStarted) return e.message;
  if (e instanceof Failed && e.failure.code !== "unavailable") return sentenceOf(e.failure);
  throw e;
}

async function make(db: Db, row: Row, now: number) {
  const live = await processes.liveRelease(db, row.process_key, true);
  if (!live) throw new NotStarted("The process is not live any more.");
  const d = await loadDirectory(db);
  const definition = definitionNow(live, d.registers);
  const start = definition.starts.find((s) => s.id === row.start_id);
  const program = start && startProgram(d, start);
  const p = recordProgramOf(d, row.register_key);
  if (!program || !p || program.of.register !== row.register_key)
    throw new NotStarted("The release that is live now has no such start any more.");
  const { fields } = definition;
  const reader = factsReader(db, d, { fields: p.form.fields }, { request: null, by: [] });
  const values = [row.before, row.after].flatMap((r) => (r ? [{ ...r }] : []));
  const loaded = await reader.load([{ register: row.register_key, id: row.record_id }], ...values);
  const filled = filledBy(program, p, row, fields, engineFacts(d, loaded, now));
  if ("why" in filled) throw new NotStarted(filled.why);
  const requester: Party = {
    kind: "process",
    key: row.process_key,
    name: definition.name,
    behind: row.behind,
    because: becauseOf(d, row),
  };
  return makeRequest(db, live, {
    requester,
    actor: null,
    data: filled.data,
    startKey: `record ${row.id}`,
    startHash: null,
    chain: row.chain,
    occasion: undefined,
  }).catch((e: unknown) => {
    throw badForm(e, definition) ?? e;
  });
}

/** What became of the record, as everybody who sees the request may read it. */
function becauseOf(d: Directory, row: Row): string {
  const shape = d.registers[row.register_key]!;
  const open = !d.hiddenReads.includes(`record ${shape.key}.name`);
  return becauseWords(shape, row.did, open ? (row.after ?? row.before) : null, row.for_date);
}

/** Nobody waits for what a record was to start, so its owners hear that it did not. */
async function tellOwners(db: Db, row: Row, why: string, now: number): Promise<void> {
  const live = await processes.liveRelease(db, row.process_key);
  for (const person of await processes.ownersOf(db, row.process_key))
    await notices.insertNotice(db, {
      person,
      request: null,
      effectKey: `record-start:${row.id}`,
      subject: `${live?.released.name ?? row.process_key} was not started`,
      body: why,
      at: at(now)!,
    });
}
