import {
  decideRecord,
  fieldsOfRegister,
  type Fill,
  type Must,
  type Pointing,
  type RecordChange,
  type RecordProgram,
  type RecordWrite,
  type WriteRefusal,
  type Wrote,
} from "@/core/records";
import type { Facts, RegisterShape } from "@/core/form";
import { at, bumpDuties, registers, ROLE_HOLDERS, type Db, type RecordRow } from "@/db";
import { isOfNow, loadDirectory } from "../kernel/directory";
import { engineFacts, factsReader } from "../requests/facts";
import { holdTargets } from "./holdTargets";
import { pointedAt } from "./pointedAt";
import { keepTaken, takeFiles } from "./takeFiles";
import { recordProgramOf } from "./recordPrograms";
import { keepStarts } from "./startsByRecords";
import type { Planned, Writing } from "./writing";
import { takenBy, unfitWords } from "./refusedByTable";

/** What is asked of each record that is there already, once it is locked. */
export interface WriteHow {
  /** Whether it may be written. */
  must?: Must;
  /** What is written besides. */
  fill?: Fill;
}

/** Records written by one statement. */
const AT_ONCE = 500;
/** Milliseconds of deciding after which others have their turn. */
const TURN_MS = 20;

/**
 * The one door by which records are written: by hand, by steps, by programs, from sheets. Each is locked, decided by
 * the rules and columns of its register, written in its order, and put into the history. What is refused is not
 * written, and said for each; whether the others stay is the caller's to decide.
 */
export async function writeRecords(
  w: Writing,
  register: string,
  writes: readonly RecordWrite[],
  how: WriteHow = {},
): Promise<Wrote[]> {
  const out: Wrote[] = [];
  for (const run of runsOf(writes)) out.push(...(await writeShaped(w, register, run, how)));
  // Who holds which duty is a part of the directory.
  if (register === ROLE_HOLDERS && out.some((o) => o.ok && o.change)) await bumpDuties(w.db);
  return out;
}

/** Writes that may be made by one statement: of one kind, each of another record, so that their order is kept. */
export function* runsOf(writes: readonly RecordWrite[]): Generator<RecordWrite[]> {
  let run: RecordWrite[] = [];
  let ids = new Set<string>();
  for (const w of writes) {
    const again = w.op !== "add" && ids.has(w.id);
    if (run.length >= AT_ONCE || again || (run[0] && run[0].op !== w.op)) {
      yield run;
      [run, ids] = [[], new Set()];
    }
    run.push(w);
    if (w.op !== "add") ids.add(w.id);
  }
  if (run.length > 0) yield run;
}

const isId = (id: string): boolean => /^\d{1,18}$/.test(id);

/**
 * Writes a run by the register's shape as it is. Somebody may have changed that since the directory was read; once
 * something is written nobody can before this ends, so it is asked then, and all of it decided anew by the new shape.
 */
async function writeShaped(
  w: Writing,
  register: string,
  run: readonly RecordWrite[],
  how: WriteHow,
): Promise<Wrote[]> {
  const program = recordProgramOf(w.directory, register);
  if (!program) throw new Error(`no register ${register}`);
  try {
    return await writeRun(w, program, run, how);
  } catch (e) {
    if (!(e instanceof OtherShape)) throw e;
    return writeShaped({ ...w, directory: await loadDirectory(w.db) }, register, run, how);
  }
}
/** What was decided was decided by a shape that is no more. It is taken back. */
class OtherShape extends Error {}

async function writeRun(
  w: Writing,
  p: RecordProgram,
  run: readonly RecordWrite[],
  how: WriteHow,
): Promise<Wrote[]> {
  const ids = run.flatMap((x) => (x.op !== "add" && isId(x.id) ? [x.id] : []));
  const there = await registers.lockRecords(w.db, p.shape, ids);
  const { out, planned, facts, points } = await decideRun(w, p, run, there, how);
  if (points) await clearLinks(w, planned, points);
  const { left, taken } = await takeFiles(w, p.shape, planned, out);
  const applied = await apply(w, p.shape, await holdTargets(w, p.shape, left, out));
  await keepTaken(w, p.shape, taken, applied);
  for (const [nth, wrote] of applied) out.set(nth, wrote);
  const changes = applied.flatMap(([, r]) => (r.ok && r.change ? [r.change] : []));
  await keepStarts(w, p, changes, facts);
  return run.map((_, nth) => out.get(nth)!);
}

export interface DecidedRun {
  /** What is certain already: refused, or as it was. */
  out: Map<number, Wrote>;
  /** What is to be written. */
  planned: Planned[];
  facts: Facts;
  points: ReadonlyMap<string, Pointing[]> | null;
}

/**
 * Decides writes that may be made by one statement, and writes nothing.
 * @param there the records they are about, as they are: locked, where they are written after it
 */
export async function decideRun(
  w: Writing,
  p: RecordProgram,
  run: readonly RecordWrite[],
  records: readonly RecordRow[],
  how: WriteHow = {},
): Promise<DecidedRun> {
  const { db } = w;
  const { shape } = p;
  const out = new Map<number, Wrote>();
  const there = new Map(records.map((r) => [r.id, r]));
  const checked = run.some((x) => x.op !== "add" && x.seen !== undefined);
  const versions = checked ? await registers.versionsOf(db, shape.key, [...there.keys()]) : null;
  const points =
    run[0]?.op === "remove" ? await pointedAt(db, w.directory.registers, shape.key, [...there.keys()]) : null;
  const ready: { nth: number; write: RecordWrite; before: RecordRow | null }[] = [];
  for (const [nth, x] of run.entries()) {
    const before = x.op === "add" ? null : (there.get(x.id) ?? null);
    const got = await readied(x, before, versions, how);
    if ("why" in got) out.set(nth, { ok: false, why: got.why });
    else ready.push({ nth, write: got.write, before });
  }
  const facts = await factsFor(
    w,
    shape,
    ready.map((x) => x.write),
    records,
  );
  const planned: Planned[] = [];
  let turn = performance.now();
  for (const { nth, write: x, before } of ready) {
    if (performance.now() - turn > TURN_MS) {
      await new Promise(setImmediate);
      turn = performance.now();
    }
    const decided = decideRecord(p, before, x.op === "remove" ? null : x.values, facts);
    if (!decided.ok) out.set(nth, { ok: false, why: { code: "form", problems: decided.problems } });
    else if (x.op === "remove") {
      const by = points?.get(x.id) ?? [];
      if (by.length > 0 && !x.clears) out.set(nth, { ok: false, why: { code: "pointed-at", by } });
      else planned.push({ nth, before, values: null });
    } else if (before && Object.entries(decided.values).every(([c, v]) => before[c] === v))
      out.set(nth, { ok: true, change: null, record: before });
    else planned.push({ nth, before, values: decided.values });
  }
  return { out, planned, facts, points };
}

/** A write with all its values, or why the record is not written as it is now. */
async function readied(
  x: RecordWrite,
  before: RecordRow | null,
  versions: ReadonlyMap<string, string> | null,
  { must, fill }: WriteHow,
): Promise<{ write: RecordWrite } | { why: WriteRefusal }> {
  if (x.op === "add") return { write: x };
  if (!before) return { why: { code: "gone", id: x.id } };
  const version = versions?.get(x.id);
  if (x.seen !== undefined && version !== x.seen)
    return { why: { code: "changed-since", id: x.id, now: before, version: version ?? "0" } };
  const holds = must ? await must(before) : true;
  if (holds === false) return { why: { code: "must-not", record: before } };
  if (holds !== true) return { why: { code: "unclear", record: before, why: holds } };
  if (x.op === "remove" || !fill) return { write: x };
  const filled = await fill(before);
  if (typeof filled === "string") return { why: { code: "unclear", record: before, why: filled } };
  return { write: { ...x, values: { ...x.values, ...filled } } };
}

/** What the formulas of a register read while these are written. */
async function factsFor(
  w: Writing,
  shape: RegisterShape,
  run: readonly RecordWrite[],
  before: readonly RecordRow[],
) {
  const fields = fieldsOfRegister(shape);
  const own = { request: w.files?.request ?? null, by: w.files?.by ?? (w.by === null ? [] : [w.by]) };
  const reach = { ...own, ofRecords: true } as const;
  const reader = factsReader(w.db, w.directory, { fields }, reach, w.directory.registers, w.own ?? null);
  const given = run.flatMap((x) => (x.op === "remove" ? [] : [x.values]));
  return engineFacts(w.directory, await reader.load([], ...before, ...given), w.at);
}

/** Empties what points at records that go, as any other write of those. */
async function clearLinks(w: Writing, planned: readonly Planned[], points: ReadonlyMap<string, Pointing[]>) {
  for (const { before } of planned)
    for (const { register, column, records } of points.get(before!.id) ?? []) {
      const cleared = records.map((id): RecordWrite => ({ op: "change", id, values: { [column]: null } }));
      for (const r of await writeRecords(w, register, cleared))
        if (!r.ok) throw new LinkStays(register, r.why);
    }
}
/** A link to a record that is removed cannot be emptied: the whole is taken back. */
export class LinkStays extends Error {
  constructor(
    readonly register: string,
    readonly why: WriteRefusal,
  ) {
    super(`a link in ${register} stays`);
  }
}

/** Writes what was decided; all at once where the table will have it, else one by one, to tell which it will not. */
async function apply(
  w: Writing,
  shape: RegisterShape,
  planned: readonly Planned[],
): Promise<[number, Wrote][]> {
  if (planned.length === 0) return [];
  const done = await attempt(w.db, async () => {
    const changes = await applyAll(w, shape, planned);
    if (!(await isOfNow(w.db, w.directory))) throw new OtherShape();
    return changes;
  });
  if (done.ok)
    return done.value.map((change, i) => [
      planned[i]!.nth,
      { ok: true, change, record: (change.after ?? change.before)! },
    ]);
  if (planned.length === 1)
    return [[planned[0]!.nth, { ok: false, why: await refusal(w, shape, done.error) }]];
  const out: [number, Wrote][] = [];
  for (const one of planned) out.push(...(await apply(w, shape, [one])));
  return out;
}

/** Runs what the table may refuse, and takes that back alone. */
async function attempt<T>(
  db: Db,
  work: () => Promise<T>,
): Promise<{ ok: true; value: T } | { ok: false; error: unknown }> {
  await db.query("savepoint written");
  try {
    const value = await work();
    await db.query("release savepoint written");
    return { ok: true, value };
  } catch (error) {
    const code = (error as { code?: string }).code ?? "";
    // Class 22 is data exceptions, 23 integrity constraints; anything else is a bug or the server.
    if (!(error instanceof OtherShape) && !/^2[23]/.test(code)) throw error;
    await db.query("rollback to savepoint written");
    if (error instanceof OtherShape) throw error;
    return { ok: false, error };
  }
}

async function refusal(w: Writing, shape: RegisterShape, error: unknown): Promise<WriteRefusal> {
  const taken = await takenBy(w.db, shape, error);
  return taken ? { code: "taken", ...taken } : { code: "unfit", message: unfitWords(shape, error) };
}

async function applyAll(
  w: Writing,
  shape: RegisterShape,
  planned: readonly Planned[],
): Promise<RecordChange[]> {
  const { db } = w;
  const first = planned[0]!;
  const after = new Map<number, RecordRow>();
  if (first.values === null)
    await registers.deleteRecords(
      db,
      shape,
      planned.map((x) => x.before!.id),
    );
  else if (first.before === null) {
    const made = await registers.insertRecords(
      db,
      shape,
      planned.map((x) => x.values!),
    );
    for (const [i, x] of planned.entries()) after.set(x.nth, made[i]!);
  } else {
    const differs = (c: string) => planned.some((x) => x.before![c] !== x.values![c]);
    const columns = shape.columns.map((c) => c.id).filter(differs);
    const rows = planned.map((x) => ({ ...x.values!, id: x.before!.id }));
    const made = await registers.updateRecords(db, shape, columns, rows);
    for (const x of planned) after.set(x.nth, made.get(x.before!.id)!);
  }
  const changes = planned.map((x) => changeOf(x, after.get(x.nth) ?? null));
  const entries = changes.map((c) => ({
    register: shape.key,
    record: c.id,
    at: at(w.at)!,
    by: w.by,
    via: w.via,
    request: w.request,
    did: c.did,
    ...whatChanged(shape, c),
  }));
  const versions = await registers.insertHistory(db, entries);
  return changes.map((c, i) => ({ ...c, version: versions[i]! }));
}

function changeOf({ before }: Planned, after: RecordRow | null): Omit<RecordChange, "version"> {
  const id = (after ?? before)!.id;
  if (!before) return { did: "added", id, before, after };
  return { did: after ? "changed" : "removed", id, before, after };
}

/** Only what changed is worth keeping of a change. */
function whatChanged(shape: RegisterShape, { before, after }: Pick<RecordChange, "before" | "after">) {
  const all = shape.columns.map((c) => c.id);
  const keys = before && after ? all.filter((k) => before[k] !== after[k]) : all;
  const pick = (r: RecordRow | null) => r && Object.fromEntries(keys.map((k) => [k, r[k] ?? null]));
  return { before: pick(before), after: pick(after) };
}
