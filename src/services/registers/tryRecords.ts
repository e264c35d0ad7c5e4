import type { RecordChange, RecordWrite, Wrote } from "@/core/records";
import { recordTitle } from "@/core/form";
import { registers, type RecordRow } from "@/db";
import { recordProgramOf } from "./recordPrograms";
import { startsOf } from "./startsByRecords";
import { decideRun, runsOf } from "./writeRecords";
import type { Planned, Writing } from "./writing";

/** What would come of writing, and what that would start. */
export interface Tried {
  wrote: Wrote[];
  /** How many requests start, by process. */
  starts: Readonly<Record<string, number>>;
}
/** By column and value, that an earlier row of the same sheet takes it; grows with what is tried. */
export type Taken = Map<string, Set<string>>;

/**
 * What would come of writing records, without writing anything or locking what others write meanwhile. It is decided by
 * what decides the writing itself; that no two records share a value is looked up, in the table and among what was
 * tried before. Removing is not tried.
 */
export async function tryRecords(
  w: Writing,
  register: string,
  writes: readonly RecordWrite[],
  taken: Taken,
): Promise<Tried> {
  const program = recordProgramOf(w.directory, register);
  if (!program) throw new Error(`no register ${register}`);
  const { shape } = program;
  const wrote: Wrote[] = [];
  const starts: Record<string, number> = {};
  for (const run of runsOf(writes)) {
    const ids = run.flatMap((x) => (x.op === "add" ? [] : [x.id]));
    const { out, planned, facts } = await decideRun(
      w,
      program,
      run,
      await registers.recordsByIds(w.db, shape, ids),
    );
    const others = await whoHas(w, shape.key, planned);
    const changes: RecordChange[] = [];
    for (const x of planned) {
      const by = others(x) ?? takenBefore(x, taken, uniqueOf(shape));
      if (by) {
        out.set(x.nth, { ok: false, why: { code: "taken", ...by } });
        continue;
      }
      const change = wouldBe(x);
      changes.push(change);
      out.set(x.nth, { ok: true, change, record: change.after! });
    }
    for (const s of await startsOf(w, program, changes, facts))
      if (s.why === null) starts[s.process_key] = (starts[s.process_key] ?? 0) + 1;
    wrote.push(...run.map((_, nth) => out.get(nth)!));
  }
  return { wrote, starts };
}

type Shape = Parameters<typeof recordTitle>[0];
const uniqueOf = (shape: Shape) => shape.columns.filter((c) => c.unique || c.id === shape.key_column);

function wouldBe({ before, values }: Planned): RecordChange {
  const after = { ...values!, id: before?.id ?? "0" };
  return { did: before ? "changed" : "added", id: after.id, before, after, version: "0" };
}

type TakenBy = { column: string; value: string; by: { id: string; title: string } | null };

/** Looks up, for columns in which no two records may have the same, who has what these are given. */
async function whoHas({ db, directory }: Writing, register: string, planned: readonly Planned[]) {
  const shape = directory.registers[register]!;
  const have = new Map<string, Map<string, RecordRow[]>>();
  for (const c of uniqueOf(shape)) {
    const given = planned.flatMap((x) => {
      const v = x.values![c.id];
      return typeof v === "string" && v !== x.before?.[c.id] ? [v] : [];
    });
    have.set(c.id, await registers.recordsWithAny(db, shape, c.id, given));
  }
  return (x: Planned): TakenBy | null => {
    for (const [column, by] of have) {
      const value = String(x.values![column]);
      const other = by.get(value)?.find((r) => r.id !== x.before?.id);
      const { name } = shape.columns.find((c) => c.id === column)!;
      if (other) return { column: name, value, by: { id: other.id, title: recordTitle(shape, other) } };
    }
    return null;
  };
}

function takenBefore(x: Planned, taken: Taken, unique: Shape["columns"]): TakenBy | null {
  for (const c of unique) {
    const value = x.values![c.id];
    if (typeof value !== "string") continue;
    const had = taken.get(c.id) ?? new Set();
    taken.set(c.id, had);
    if (had.has(value)) return { column: c.name, value, by: null };
  }
  for (const c of unique) taken.get(c.id)?.add(String(x.values![c.id]));
  return null;
}
