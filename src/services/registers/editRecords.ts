import type { RecordValues, RecordWrite, WriteRefusal } from "@/core/records";
import type { RecordRights, RegisterShape } from "@/core/form";
import { formDrafts, inTransaction, registers, type Client, type RecordRow } from "@/db";
import { defineUseCase, type Call } from "../kernel/defineUseCase";
import { loadDirectory, registerOf, type Directory } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { registerFor } from "../kernel/registersSeen";
import { handWriting } from "./handWriting";
import { draftOf, noRegister, rightsToRecords } from "./recordForm";
import { seenRefusal } from "./seenRefusal";
import { LinkStays, writeRecords } from "./writeRecords";

/** Records one action may change at once. */
const MOST_AT_ONCE = 5000;

interface Editing {
  db: Client;
  d: Directory;
  /** With all its columns, and as whoever writes sees it. */
  whole: RegisterShape;
  shape: RegisterShape;
  may: RecordRights;
}

/** In a transaction, with a register that whoever calls may write so. */
const editing = <T>(
  c: Call,
  key: string,
  what: "add" | "change" | "remove",
  run: (e: Editing) => Promise<T>,
): Promise<T> =>
  inTransaction(async (db) => {
    const d = await loadDirectory(db);
    const [whole, shape] = [registerOf(d, key), registerFor(d, c.actor, key)];
    const may = rightsToRecords(d, c, key);
    if (!whole || !shape) {
      c.must({ action: "write records", may: false }, noRegister(key));
      throw new Failed(noRegister(key));
    }
    const action = `${what} ${shape.name}`;
    c.must({ action: "write records", may: may[what] }, { code: "not-allowed", data: { action } });
    return run({ db, d, whole, shape, may });
  });

const refused = (register: string, why: WriteRefusal): Failed =>
  new Failed({ code: "record-refused", data: { register, why } });

/** Writes one record; what is refused is the caller's failure. */
async function writeOne(c: Call, e: Editing, write: RecordWrite) {
  const [wrote] = await writeAll(c, e, [write]);
  if (!wrote!.ok) throw refused(e.whole.key, seenRefusal(c.actor, e, wrote!.why));
  return wrote!;
}
async function writeAll(c: Call, e: Editing, writes: readonly RecordWrite[]) {
  const { db, d, whole } = e;
  const w = await handWriting(db, d, c.actor);
  try {
    return await writeRecords(w, whole.key, writes);
  } catch (error) {
    if (error instanceof LinkStays) throw refused(error.register, seenRefusal(c.actor, e, error.why));
    throw error;
  }
}

/** What was filled in, of columns that are theirs to fill in; anything else must stand as it is. */
function filledIn({ shape, may }: Editing, values: RecordValues, before: RecordRow | null): RecordValues {
  for (const [column, v] of Object.entries(values)) {
    const named = shape.columns.find((x) => x.id === column);
    if (named && (may.fill.includes(column) || (v ?? null) === (before?.[column] ?? null))) continue;
    // A worked-out column comes along with the form it stands in.
    if (named?.worked !== undefined) continue;
    throw new Failed(
      named
        ? { code: "not-allowed", data: { action: `fill in ${named.name}` } }
        : { code: "invalid", data: { path: column, message: `${shape.name} has no such column.` } },
    );
  }
  return Object.fromEntries(
    Object.entries(values).flatMap(([k, v]) => (may.fill.includes(k) ? [[k, v === "" ? null : v]] : [])),
  );
}

/**
 * Adds or changes a record by hand.
 * @param id null for a new one
 * @param seen the version its writer saw, or null to write over whatever is there
 */
export const saveRecord = defineUseCase(
  ["write records"],
  (
    c,
    key: string,
    id: string | null,
    seen: string | null,
    values: RecordValues,
  ): Promise<{ id: string; version: string }> =>
    editing(c, key, id === null ? "add" : "change", async (e) => {
      const before = id === null ? null : await lockOne(e, id);
      const filled = filledIn(e, values, before);
      const write: RecordWrite =
        id === null
          ? { op: "add", values: filled }
          : { op: "change", id, values: filled, ...(seen === null ? {} : { seen }) };
      const { change, record } = await writeOne(c, e, write);
      await formDrafts.deleteRecordDraft(e.db, c.actor.id, draftOf(key, id));
      const version = change?.version ?? (await registers.versionsOf(e.db, key, [record.id])).get(record.id)!;
      return { id: record.id, version };
    }),
);

async function lockOne({ db, whole }: Editing, id: string): Promise<RecordRow> {
  const [row] = /^\d{1,18}$/.test(id) ? await registers.lockRecords(db, whole, [id]) : [];
  if (!row) throw new Failed({ code: "not-found", data: { what: whole.one, id } });
  return row;
}

/** Takes a record out. @param clears whether links that point at it are emptied; else it stays where there are any */
export const removeRecord = defineUseCase(
  ["write records"],
  (c, key: string, id: string, seen: string | null, clears: boolean): Promise<null> =>
    editing(c, key, "remove", async (e) => {
      await writeOne(c, e, { op: "remove", id, clears, ...(seen === null ? {} : { seen }) });
      return null;
    }),
);

/** What came of changing several records. */
export interface ManyChanged {
  changed: number;
  /** They were so already. */
  same: number;
  refused: { id: string; why: WriteRefusal }[];
}

/** Sets one column of all that were chosen; those that are refused stay as they are, and are told. */
export const changeRecords = defineUseCase(
  ["write records"],
  (
    c,
    key: string,
    ids: readonly string[],
    column: string,
    value: string | boolean | null,
  ): Promise<ManyChanged> =>
    editing(c, key, "change", async (e) => {
      few(ids);
      const values = filledIn(e, { [column]: value }, null);
      if (!(column in values)) throw unfilled(e, column);
      return cameOf(
        c,
        e,
        await writeAll(
          c,
          e,
          [...new Set(ids)].map((id) => ({ op: "change", id, values })),
        ),
        ids,
      );
    }),
);

/** Takes out all that were chosen; those something points at stay, and are told. */
export const removeRecords = defineUseCase(
  ["write records"],
  (c, key: string, ids: readonly string[]): Promise<ManyChanged> =>
    editing(c, key, "remove", async (e) => {
      few(ids);
      return cameOf(
        c,
        e,
        await writeAll(
          c,
          e,
          [...new Set(ids)].map((id) => ({ op: "remove", id })),
        ),
        ids,
      );
    }),
);

const unfilled = ({ shape }: Editing, column: string): Failed =>
  new Failed({
    code: "not-allowed",
    data: { action: `fill in ${shape.columns.find((x) => x.id === column)?.name ?? column}` },
  });
function few(ids: readonly string[]): void {
  if (ids.length <= MOST_AT_ONCE) return;
  const message = `At most ${MOST_AT_ONCE} records are changed at once; these are ${ids.length}. Choose fewer.`;
  throw new Failed({ code: "invalid", data: { path: "", message } });
}
function cameOf(
  c: Call,
  e: Editing,
  wrote: Awaited<ReturnType<typeof writeRecords>>,
  ids: readonly string[],
): ManyChanged {
  const out: ManyChanged = { changed: 0, same: 0, refused: [] };
  const each = [...new Set(ids)];
  for (const [i, r] of wrote.entries())
    if (!r.ok) out.refused.push({ id: each[i]!, why: seenRefusal(c.actor, e, r.why) });
    else if (r.change) out.changed++;
    else out.same++;
  return out;
}

/**
 * Takes one change of a record back: what it changed becomes as it was before, whatever was changed elsewhere in the
 * record since; a record that was removed is added anew.
 */
export const putBack = defineUseCase(
  ["write records"],
  async (c, key: string, change: string): Promise<{ id: string }> => {
    const missing = new Failed({ code: "not-found", data: { what: "change", id: change } });
    return editing(c, key, "change", async (e) => {
      const entry = /^\d{1,18}$/.test(change) ? await registers.historyEntry(e.db, key, change) : null;
      if (!entry?.before) throw missing;
      const before = entry.before as RecordValues;
      const mine = Object.fromEntries(Object.entries(before).filter(([k]) => e.may.fill.includes(k)));
      const others = Object.keys(before).filter(
        (k) => !e.may.fill.includes(k) && e.whole.columns.some((x) => x.id === k && !x.worked),
      );
      if (others[0] !== undefined) throw unfilled(e, others[0]);
      if (entry.did === "removed") {
        const action = { code: "not-allowed", data: { action: `add ${e.shape.name}` } } as const;
        c.must({ action: "write records", may: e.may.add }, action);
        if (entry.put_back !== null) {
          const message = `This ${e.shape.one} was put back already.`;
          throw new Failed({ code: "invalid", data: { path: "", message } });
        }
        const { record } = await writeOne(c, e, { op: "add", values: mine });
        await registers.markPutBack(e.db, change, record.id);
        return { id: record.id };
      }
      const id = entry.record_id;
      await lockOne(e, id);
      return { id: (await writeOne(c, e, { op: "change", id, values: mine })).record.id };
    });
  },
);
