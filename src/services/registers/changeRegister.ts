import { registerProblems, shapeChange, withNewNames, type ShapeChange, type Wrote } from "@/core/records";
import { recordTitle, type RegisterShape } from "@/core/form";
import { writeRefusalSentence } from "@/core/words";
import { getPool, inTransaction, registers, type Client } from "@/db";
import { KINDS } from "@/kinds";
import { canonicalJson } from "../kernel/canonicalJson";
import { defineUseCase, type Call } from "../kernel/defineUseCase";
import { loadDirectory, registerOf, type Directory } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { mustHaveProved } from "../kernel/proof";
import { registersSeen, rightsOf } from "../kernel/registersSeen";
import { noteEntry } from "../log/noteEntry";
import type { Converted } from "./convertColumn";
import { handWriting } from "./handWriting";
import { withLeaving } from "./leaving";
import { putChange } from "./putChange";
import { noRegister } from "./recordForm";
import { beginReshape } from "./reshape";
import { MOST_AT_ONCE } from "./reshapePlan";
import { hitsOf, type LostValues, type ShapeHits } from "./shapeHits";
import { writeRecords } from "./writeRecords";

const BATCH = 500;

const wrong = (message: string): Failed => new Failed({ code: "invalid", data: { path: "", message } });
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
      const named = withNewNames(before, after, { registers: d.registers, kinds: KINDS });
      const { problems, refusals, hits, loses } = await hitsOf(
        db,
        d,
        registersSeen(d, c.actor),
        before,
        await withLeaving(db, before, named),
      );
      return { problems, refusals, hits, loses };
    }),
);

/** A register that was changed, or is being: `begun` where its records are gone through first. */
export interface RegisterChanged {
  /** As it is now. */
  shape: RegisterShape;
  begun: boolean;
}

/**
 * Changes a register: its columns, its rules, what it is called. Formulas of its own follow columns that are called
 * otherwise; what is taken out is set aside in its table. Where more records are to be read anew than one transaction may
 * hold, that is begun, and done by a worker (`workReshape`).
 * @param before as whoever changes it saw it; what others changed meanwhile is not written over
 * @param lets ids of columns whose values nothing can be made of may be left out
 * @param atOnce so many records are read anew at once
 */
export const changeRegister = defineUseCase(
  ["keep register"],
  (
    c,
    key: string,
    before: RegisterShape,
    wanted: RegisterShape,
    lets: readonly string[] = [],
    atOnce: number = MOST_AT_ONCE,
  ): Promise<RegisterChanged> =>
    inTransaction(async (db) => {
      await registers.holdShapes(db, "to change");
      const d = await loadDirectory(db);
      mayKeep(c, d, key);
      mustHaveProved(c.actor);
      const now = await registers.holdShape(db, key);
      if (!now || canonicalJson(now) !== canonicalJson(before))
        throw wrong(
          "Somebody has changed this register meanwhile. Nothing was kept: load the page again and look at theirs first.",
        );
      if (wanted.key !== key) throw wrong("A register keeps its key.");
      const open = await registers.openReshape(db, key);
      if (open && open.state !== "refused")
        throw wrong(
          "The records of this register are being gone through for a change somebody made. Nothing was kept: wait for that, or stop it.",
        );
      const named = withNewNames(now, wanted, { registers: d.registers, kinds: KINDS });
      const after = await withLeaving(db, now, named);
      const change = shapeChange(now, after);
      // What is read to be converted must still be so as it is written.
      if (change.retyped.length > 0) await registers.holdTable(db, key);
      const hits = await hitsOf(db, d, registersSeen(d, c.actor), now, after, atOnce);
      const lost = hits.loses.find((x) => !lets.includes(x.column));
      const first = hits.problems[0]?.message ?? hits.refusals[0] ?? (lost && lostSentence(lost));
      if (first !== undefined) throw wrong(first);
      await mustBeFree(db, key, change);
      if (hits.long) {
        await beginReshape(db, c.actor, now, after, hits.anew, lets);
        return { shape: now, begun: true };
      }
      await putChange(db, c.actor, d, { now, after, change, followers: hits.followers, made: [] });
      await writeConverted(c, db, key, hits.converted);
      for (const { column: x } of change.retyped)
        if (x.needed && !x.worked) await registers.setNeeded(db, key, x);
      if (hits.anew.worked.length > 0) await workOutAnew(c, db, key);
      return { shape: after, begun: false };
    }),
);

/** Keys of columns that were taken out stay taken: what they held is in the table. */
async function mustBeFree(db: Client, key: string, change: ShapeChange): Promise<void> {
  const there = await registers.columnsThere(db, key);
  const taken = change.added.find((x) => there.has(x.id));
  if (taken)
    throw wrong(
      `A column of this kind was taken out before under the same key. Give "${taken.name}" another.`,
    );
}

const lostSentence = ({ name, count, examples }: LostValues): string =>
  `Nothing can be made of what ${count} ${count === 1 ? "record holds" : "records hold"} in "${name}", as of "${examples[0]!.text}" in ${examples[0]!.title}. Mend that, or agree to leave it out.`;

/** Writes what becomes of the values of columns that came to be of another kind, as any other write of those. */
async function writeConverted(c: Call, db: Client, key: string, converted: readonly Converted[]) {
  const byId = new Map<string, Record<string, string | boolean>>();
  for (const { column, values } of converted)
    for (const [id, v] of values) byId.set(id, { ...byId.get(id), [column.id]: v });
  if (byId.size === 0) return;
  const d = await loadDirectory(db);
  const w = { ...(await handWriting(db, d, c.actor)), quietly: true };
  const ids = [...byId.keys()];
  for (let at = 0; at < ids.length; at += BATCH) {
    const lot = ids.slice(at, at + BATCH);
    const wrote = await writeRecords(
      w,
      key,
      lot.map((id) => ({ op: "change", id, values: byId.get(id)! })),
    );
    await allWritten(db, d, key, lot, wrote);
  }
}

/** Works all records out anew; one that cannot be is named, and nothing of the change is kept. */
async function workOutAnew(c: Call, db: Client, key: string): Promise<void> {
  const d = await loadDirectory(db);
  const w = { ...(await handWriting(db, d, c.actor)), quietly: true };
  for (let after = "0"; ;) {
    const ids = await registers.idsAfter(db, key, after, BATCH);
    if (ids.length === 0) return;
    const wrote = await writeRecords(
      w,
      key,
      ids.map((id) => ({ op: "change", id, values: {} })),
    );
    await allWritten(db, d, key, ids, wrote);
    after = ids.at(-1)!;
  }
}

/** Takes all back where one of them could not be written, and says which. */
async function allWritten(
  db: Client,
  d: Directory,
  key: string,
  ids: readonly string[],
  wrote: readonly Wrote[],
) {
  const shape = registerOf(d, key)!;
  for (const [i, r] of wrote.entries()) {
    if (r.ok) continue;
    const [record] = await registers.recordsByIds(db, shape, [ids[i]!]);
    const called = record ? recordTitle(shape, record) : ids[i]!;
    throw wrong(`${called}: ${writeRefusalSentence(r.why, shape, d.registers)}`);
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
