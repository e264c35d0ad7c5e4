import {
  registerProblems,
  shapeChange,
  withNewNames,
  type RegisterProblem,
  type ShapeChange,
} from "@/core/records";
import { recordTitle, type Column, type RegisterShape } from "@/core/form";
import { writeRefusalSentence } from "@/core/words";
import { getPool, inTransaction, processes, registers, ROLE_HOLDERS, type Client } from "@/db";
import { KINDS } from "@/kinds";
import { defineUseCase, type Call } from "../kernel/defineUseCase";
import { loadDirectory, registerOf, type Directory } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { mustHaveProved } from "../kernel/proof";
import { rightsOf } from "../kernel/registersSeen";
import { noteEntry } from "../log/noteEntry";
import { handWriting } from "./handWriting";
import { noRegister } from "./recordForm";
import { writeRecords } from "./writeRecords";

/** What the office itself reads of the register of duties. */
const DUTY_COLUMNS = new Set(["duty", "person", "site", "department"]);
/** Records worked out anew by one change of a column. */
const MOST_WORKED = 20_000;
const BATCH = 500;

/** What a change of a register would hit, before it is made. */
export interface ShapeHits {
  problems: RegisterProblem[];
  /** What keeps it from being made, in words. */
  refusals: string[];
  /** What it would come to, in words. */
  hits: string[];
}

const wrong = (message: string): Failed => new Failed({ code: "invalid", data: { path: "", message } });
const canonical = (x: unknown): string =>
  JSON.stringify(x, (_, v: unknown) =>
    v && typeof v === "object" && !Array.isArray(v)
      ? Object.fromEntries(Object.entries(v).sort(([a], [b]) => (a < b ? -1 : 1)))
      : v,
  );

/** A register as whoever looks after it sees it, to be changed. */
export const columnSheet = defineUseCase(
  ["keep register"],
  async (c, key: string): Promise<{ shape: RegisterShape; registers: Record<string, RegisterShape> }> => {
    const d = await loadDirectory(getPool());
    const shape = mayKeep(c, d, key);
    return { shape, registers: d.registers };
  },
);

function mayKeep(c: Call, d: Directory, key: string): RegisterShape {
  const shape = registerOf(d, key);
  const keeper = rightsOf(d, key).keepers.includes(c.actor.id);
  c.must({ action: "keep register", keeper }, noRegister(key));
  if (!shape) throw new Failed(noRegister(key));
  return shape;
}

/** What a change would hit: formulas, releases with requests under way, records. Nothing is changed. */
export const shapeHits = defineUseCase(
  ["keep register"],
  (c, key: string, after: RegisterShape): Promise<ShapeHits> =>
    inTransaction(async (db) => {
      const d = await loadDirectory(db);
      const before = mayKeep(c, d, key);
      return hitsOf(db, d, before, withNewNames(before, after, { registers: d.registers, kinds: KINDS }));
    }),
);

async function hitsOf(
  db: Client,
  d: Directory,
  before: RegisterShape,
  after: RegisterShape,
): Promise<ShapeHits> {
  const problems = registerProblems(after, { registers: d.registers, kinds: KINDS });
  const change = shapeChange(before, after);
  const refusals: string[] = [];
  const hits: string[] = [];
  const readers = await processes.releasesInUse(db, before.key);
  const readBy = (c: Column) =>
    readers
      .filter((r) => r.columns === null || r.columns.includes(c.id))
      .map((r) => `${r.name} ${r.version}${r.open > 0 ? ` (${r.open} under way)` : ""}`);
  const has = (c: Column) => registers.filledIn(db, before.key, c);
  for (const c of change.removed) {
    const by = readBy(c);
    if (by.length > 0) refusals.push(`"${c.name}" cannot go while it is read by ${by.join(", ")}.`);
    if (before.key === ROLE_HOLDERS && DUTY_COLUMNS.has(c.id))
      refusals.push(`"${c.name}" cannot go: the office reads from it who holds which duty.`);
    const { filled } = await has(c);
    if (filled > 0) hits.push(`What ${filled} records hold in "${c.name}" is set aside with it.`);
  }
  for (const { column, from } of change.renamed) {
    const by = readBy(column);
    if (by.length > 0)
      refusals.push(
        `"${from}" cannot be called "${column.name}" while it is read by that name by ${by.join(", ")}.`,
      );
  }
  for (const { column, from } of change.retyped) {
    const { filled } = await has(from);
    if (filled > 0)
      refusals.push(
        `"${column.name}" cannot become ${column.kind}: ${filled} records hold a ${from.kind} in it. Add another column, and take this one out.`,
      );
    else if (readBy(column).length > 0)
      refusals.push(
        `"${column.name}" cannot become ${column.kind} while it is read by ${readBy(column).join(", ")}.`,
      );
  }
  refusals.push(...othersHit(d, before, after));
  await addedHits(db, before, change, refusals);
  for (const { column, options } of change.gone) {
    const n = await registers.countHolding(db, before.key, column, options);
    if (n > 0)
      hits.push(
        `${n} records go on holding ${options.join(", ")} in "${column.name}", which can be chosen no more.`,
      );
  }
  if (change.worked.length > 0) {
    const n = (await registers.idsAfter(db, before.key, "0", MOST_WORKED + 1)).length;
    if (n > MOST_WORKED)
      refusals.push(`More than ${MOST_WORKED} records would have to be worked out anew at once.`);
    else if (n > 0) hits.push(`${n} records are worked out anew.`);
  }
  return { problems, refusals, hits };
}

/** Formulas of other registers that read this one by links, and could not be read any more. */
function othersHit(d: Directory, before: RegisterShape, after: RegisterShape): string[] {
  const problems = (other: RegisterShape, shape: RegisterShape) =>
    registerProblems(other, { registers: { ...d.registers, [shape.key]: shape }, kinds: KINDS });
  return Object.values(d.registers).flatMap((other) => {
    if (other.key === before.key) return [];
    const had = new Set(problems(other, before).map((p) => p.message));
    const more = problems(other, after).filter((p) => !had.has(p.message));
    return more.map((p) => `A formula of ${other.name} could not be read any more: ${p.message}`);
  });
}

/** What records that are there keep from becoming needed, or something no two share. */
async function addedHits(db: Client, { key }: RegisterShape, change: ShapeChange, refusals: string[]) {
  const some = (await registers.idsAfter(db, key, "0", 1)).length > 0;
  for (const c of change.added)
    if (some && c.needed && !c.worked)
      refusals.push(
        `"${c.name}" cannot be needed at once: the records that are there have nothing in it. Add it, fill it in, then make it needed.`,
      );
  for (const c of change.needed) {
    if (!c.needed || c.worked) continue;
    const { empty } = await registers.filledIn(db, key, c);
    if (empty > 0) refusals.push(`"${c.name}" cannot be needed yet: ${empty} records have nothing in it.`);
  }
  for (const c of change.unique) {
    const twice = c.unique ? await registers.firstTwice(db, key, c) : null;
    if (twice !== null)
      refusals.push(`"${c.name}" cannot be kept apart: more than one record has "${twice}".`);
  }
}

/**
 * Changes a register: its columns, its rules, what it is called. Formulas of its own follow columns that are called
 * otherwise; what is taken out is set aside in its table.
 * @param before as whoever changes it saw it; what others changed meanwhile is not written over
 */
export const changeRegister = defineUseCase(
  ["keep register"],
  (c, key: string, before: RegisterShape, wanted: RegisterShape): Promise<RegisterShape> =>
    inTransaction(async (db) => {
      const d = await loadDirectory(db);
      mayKeep(c, d, key);
      mustHaveProved(c.actor);
      const now = await registers.holdShape(db, key);
      if (!now || canonical(now) !== canonical(before))
        throw wrong(
          "Somebody has changed this register meanwhile. Nothing was kept: load the page again and look at theirs first.",
        );
      if (wanted.key !== key) throw wrong("A register keeps its key.");
      const after = withNewNames(now, wanted, { registers: d.registers, kinds: KINDS });
      const { problems, refusals } = await hitsOf(db, d, now, after);
      const first = problems[0]?.message ?? refusals[0];
      if (first !== undefined) throw wrong(first);
      const change = shapeChange(now, after);
      const there = await registers.columnsThere(db, key);
      const taken = change.added.find((x) => there.has(x.id));
      if (taken)
        throw wrong(
          `A column of this kind was taken out before under the same key. Give "${taken.name}" another.`,
        );
      for (const x of change.removed) await registers.setColumnAside(db, key, x);
      for (const { column, from } of change.retyped) {
        await registers.setColumnAside(db, key, from);
        await registers.renameAside(db, key, from);
        await registers.addColumn(db, key, column);
      }
      for (const x of change.added)
        await registers.addColumn(db, key, x.worked ? { ...x, needed: false } : x);
      for (const x of change.needed) if (!x.worked) await registers.setNeeded(db, key, x);
      for (const x of [...change.unique, ...change.added.filter((y) => y.unique)])
        await registers.setUnique(db, key, x);
      await registers.putShape(db, after);
      if (change.added.length + change.removed.length + change.retyped.length > 0)
        await registers.indexAnew(db, after);
      await noteEntry(c.actor, { what: "register changed", data: { register: key } }, db);
      const worked = [...change.worked, ...change.added.filter((x) => x.worked)];
      if (worked.length > 0) await workOutAnew(c, db, key);
      return after;
    }),
);

/** Works all records out anew; one that cannot be is named, and nothing of the change is kept. */
async function workOutAnew(c: Call, db: Client, key: string): Promise<void> {
  const d = await loadDirectory(db);
  const shape = registerOf(d, key)!;
  const w = { ...(await handWriting(db, d, c.actor)), quietly: true };
  for (let after = "0"; ;) {
    const ids = await registers.idsAfter(db, key, after, BATCH);
    if (ids.length === 0) return;
    const wrote = await writeRecords(
      w,
      key,
      ids.map((id) => ({ op: "change", id, values: {} })),
    );
    for (const [i, r] of wrote.entries())
      if (!r.ok) {
        const [record] = await registers.recordsByIds(db, shape, [ids[i]!]);
        const called = record ? recordTitle(shape, record) : ids[i]!;
        throw wrong(`${called}: ${writeRefusalSentence(r.why, shape, d.registers)}`);
      }
    after = ids.at(-1)!;
  }
}

/** A new register, looked after by whoever makes it. */
export const makeRegister = defineUseCase(
  ["make register"],
  (c, shape: RegisterShape): Promise<{ key: string }> => inTransaction((db) => makeRegisterIn(db, c, shape)),
);

/** The same in a transaction of the caller's, who does more with it. */
export async function makeRegisterIn(db: Client, c: Call, shape: RegisterShape): Promise<{ key: string }> {
  c.must({ action: "make register" }, { code: "not-allowed", data: { action: "make registers" } });
  mustHaveProved(c.actor);
  const d = await loadDirectory(db);
  if (registerOf(d, shape.key))
    throw wrong(`There is a register "${shape.key}" already. Call this one otherwise.`);
  const [problem] = registerProblems(shape, { registers: d.registers, kinds: KINDS });
  if (problem) throw wrong(problem.message);
  const nobody = { see: [], columns: {}, withdrawn: [], add: [], change: [], remove: [], fill: {} };
  await registers.createRegister(db, shape, { keepers: [c.actor.id], ...nobody });
  await noteEntry(c.actor, { what: "register made", data: { register: shape.key } }, db);
  return { key: shape.key };
}
