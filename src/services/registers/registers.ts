import {
  REQUESTS,
  type Column,
  type FileFacts,
  type StoredRecord,
  closedRegister,
  recordTitle,
  type RecordRef,
  type RecordRights,
  type Registers,
  type RegisterShape,
} from "@/core/form";
import {
  files,
  getPool,
  registers,
  requests,
  searching,
  type Db,
  type HistoryRow,
  type RecordSearch,
  type RecordRow,
} from "@/db";
import { KINDS } from "@/kinds";
import { loadDirectory, personName } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { nowMs } from "../kernel/clock";
import { offeredOn, type OfferedPress } from "../requests/pressed";
import { placeText, readPlace } from "./placeText";
import { pointedAt } from "./pointedAt";
import { notesOn, type RecordNote } from "./recordNotes";
import { seenView } from "./seenView";
import { fileColumns } from "./takeFiles";
import { fileFactsOf } from "../files/fileFacts";
import { idsIn } from "../kernel/idsNamed";
import { noRegister, recordOf, rightsToRecords } from "./recordForm";
import { registerFor, registersSeen, rightsOf } from "../kernel/registersSeen";
import { defineUseCase, defineView, type Call } from "../kernel/defineUseCase";

/**
 * The registers somebody may see, with the columns they may see and how many records there are; and, without a count,
 * those of which they may only say who sees them.
 */
export const registerList = defineView(
  ["read registers", "keep register"],
  async (c): Promise<{ shape: RegisterShape; count: number | null }[]> => {
    if (!c.may({ action: "read registers" })) return [];
    const db = getPool();
    const d = await loadDirectory(db);
    const seen = registersSeen(d, c.actor);
    const listed = Object.values(d.registers).filter(
      (r) => seen[r.key] ?? c.may({ action: "keep register", keeper: false }),
    );
    return Promise.all(
      listed.map(async ({ key }) => ({
        shape: seen[key] ?? closedRegister(d.registers[key]!),
        count: seen[key] ? await registers.countRecords(db, key) : null,
      })),
    );
  },
);

/** The registers somebody may see, with the columns they may see, by key. */
export const registerNames = defineView(
  ["read registers"],
  async (c): Promise<Readonly<Record<string, RegisterShape>>> =>
    c.may({ action: "read registers" }) ? registersSeen(await loadDirectory(getPool()), c.actor) : {},
);

export interface RegisterPage {
  shape: RegisterShape;
  /** The register and those it links to, for conditions that follow links. */
  registers: Record<string, RegisterShape>;
  rows: RecordRow[];
  total: number;
  /** Where the page before and the next begin, to be sent back as `from`; null where there is none. */
  earlier: string | null;
  next: string | null;
  /** Names of people in person columns. */
  people: Record<string, string>;
  /** What they may do with its records. */
  may: RecordRights;
  /** By id, the version each record is of; none where nobody here changes them. */
  versions: Readonly<Record<string, string>>;
}
/** A page of a list: by its number, or from a place that a page before it gave. */
export type ListSearch = Omit<RecordSearch, "from" | "where"> & { from?: { place: string; back: boolean } };

/** Groups that are shown; whoever has more groups otherwise. */
const MOST_GROUPS = 200;

export interface RegisterGroups {
  shape: RegisterShape;
  groups: registers.RecordGroup[];
  /** There are more than these. */
  more: boolean;
  people: Record<string, string>;
}
/** The records of a view counted, and their numbers summed, by what stands in a column. */
export const registerGroups = defineUseCase(
  ["read register"],
  async (
    c,
    key: string,
    search: Pick<RecordSearch, "search" | "filters">,
    condition: string,
    by: string,
  ): Promise<RegisterGroups> => {
    const { d, seen, shape, where } = await seenView(c, getPool(), key, condition);
    const column = shape.columns.find((x) => x.id === by);
    if (!column) {
      const message = `${shape.name} has no such column to group by.`;
      throw new Failed({ code: "invalid", data: { path: "group", message } });
    }
    const all = await searching((on) =>
      registers.groupRecords(
        on,
        shape,
        seen,
        { ...search, ...where },
        by,
        d.registers[key]!,
        MOST_GROUPS + 1,
      ),
    );
    const groups = all.slice(0, MOST_GROUPS);
    const ids = column.kind === "person" ? groups.flatMap((g) => (g.value ? [String(g.value)] : [])) : [];
    return {
      shape,
      groups,
      more: all.length > MOST_GROUPS,
      people: Object.fromEntries(ids.map((id) => [id, personName(d, id)])),
    };
  },
);

/** @param condition a formula over the columns that every record shown must meet */
export const registerPage = defineUseCase(
  ["read register"],
  (c, key: string, search: ListSearch, condition: string = ""): Promise<RegisterPage> =>
    pageOf(c, key, search, condition),
);

async function pageOf(
  c: Call,
  key: string,
  { from, ...search }: ListSearch,
  condition: string,
): Promise<RegisterPage> {
  const db = getPool();
  const { d, seen, shape, where } = await seenView(c, db, key, condition);
  const limit = Math.min(search.limit, 500);
  const place = from ? readPlace(from.place) : null;
  const begins = place ? { from: { place, back: from!.back } } : {};
  const { rows, total, earlier, next } = await searching((on) =>
    registers.findRecords(on, shape, seen, { ...search, ...where, ...begins, limit }, d.registers[key]),
  );
  const people: Record<string, string> = {};
  for (const c of shape.columns)
    if (c.kind === "person")
      for (const r of rows) if (r[c.id]) people[String(r[c.id])] = personName(d, String(r[c.id]));
  const may = rightsToRecords(d, c, key);
  const ids = may.change ? rows.map((r) => r.id) : [];
  const versions = Object.fromEntries(ids.length > 0 ? await registers.versionsOf(db, key, ids) : []);
  const near = [key, ...shape.columns.flatMap((c) => KINDS.fields[c.kind].links?.registers(c) ?? [])];
  return {
    shape,
    registers: Object.fromEntries(near.flatMap((k) => (seen[k] ? [[k, seen[k]]] : []))),
    rows,
    total,
    earlier: placeText(earlier),
    next: placeText(next),
    people,
    may,
    versions,
  };
}

export interface RecordPage {
  shape: RegisterShape;
  record: RecordRow;
  title: string;
  links: Record<string, { register: string; id: string; title: string }>;
  /** By column, what its links point at or did, by what stands in them: of registers they see. */
  linked: Record<string, Record<string, string>>;
  /** What is known of the files it holds, by their ids. */
  files: Record<string, FileFacts>;
  people: Record<string, string>;
  history: (HistoryRow & { by_name: string | null })[];
  /** The version it is of. */
  version: string;
  notes: RecordNote[];
  /** What can be started from it by whoever looks. */
  offered: OfferedPress[];
  /** What they may do with it. */
  may: RecordRights;
  /** What points at it, of registers and columns they see: the first few of each, and how many there are. */
  pointing: {
    register: string;
    column: string;
    /** What stands in the links that point here. */
    pointer: string;
    count: number;
    records: { id: string; title: string }[];
  }[];
}
/** What a look-up lists at once. */
const LOOKED_UP = 20;
/** Of what points at a record so many are told by name. */
const POINTING_SHOWN = 5;
/** One record with what it links to and every change made to it, newest first. */
export const recordPage = defineUseCase(
  ["read register", "press"],
  async (c, key: string, id: string): Promise<RecordPage> => {
    const db = getPool();
    const d = await loadDirectory(db);
    const seen = registersSeen(d, c.actor);
    const shape = registerFor(d, c.actor, key);
    c.must({ action: "read register", seen: shape !== undefined }, noRegister(key));
    if (!shape) throw new Failed(noRegister(key));
    const record = await recordOf(db, shape, id);
    const history = await registers.historyOf(db, key, id, 200);
    const { links, linked } = await linksOn(db, shape, seen, record, history);
    const kept = fileColumns(shape).flatMap((c) => idsIn(c, record[c.id]));
    const people: Record<string, string> = {};
    for (const c of shape.columns) {
      if (c.kind !== "person") continue;
      for (const v of [record[c.id], ...history.flatMap((h) => [h.before?.[c.id], h.after?.[c.id]])])
        if (typeof v === "string") people[v] = personName(d, v);
    }
    const pointing = (await pointedAt(db, seen, key, [id])).get(id) ?? [];
    return {
      shape,
      record,
      version: (await registers.versionsOf(db, key, [id])).get(id)!,
      may: rightsToRecords(d, c, key),
      pointing: await Promise.all(
        pointing.map(async ({ register, column, records }) => {
          const from = seen[register]!;
          const first = await registers.recordsByIds(db, from, records.slice(0, POINTING_SHOWN));
          return {
            register,
            column,
            pointer: pointerIn(from, column, { register: key, id }),
            count: records.length,
            records: first.map((r) => ({ id: r.id, title: recordTitle(from, r) })),
          };
        }),
      ),
      title: recordTitle(shape, record),
      links,
      linked,
      files: Object.fromEntries((await files.filesByIds(db, kept)).map((f) => [f.id, fileFactsOf(f)])),
      people,
      notes: await notesOn(d, c.actor.id, rightsOf(d, key).keepers.includes(c.actor.id), key, id),
      offered: await offeredOn(c, d, key, id, await nowMs(db)),
      history: history.flatMap((h) => {
        const [before, after] = [seenOf(shape, h.before), seenOf(shape, h.after)];
        // What changed in columns they do not see is nothing that happened to what they see.
        if (h.did === "changed" && sameIn(shape, before, after)) return [];
        return [{ ...h, before, after, by_name: h.by_person ? personName(d, h.by_person) : null }];
      }),
    };
  },
);

/** What stands in a link that points at a record. */
const pointerIn = (from: RegisterShape, column: string, to: RecordRef): string => {
  const c = from.columns.find((x) => x.id === column);
  return (c && KINDS.fields[c.kind].links?.pointer(to)) ?? to.id;
};

/** What a record links to, and what its links were before. */
async function linksOn(
  db: Db,
  shape: RegisterShape,
  seen: Registers,
  record: RecordRow,
  history: readonly HistoryRow[],
): Promise<Pick<RecordPage, "links" | "linked">> {
  const found: { column: string; raw: string; to: RecordRef }[] = [];
  for (const c of shape.columns) {
    const raws = [record[c.id], ...history.flatMap((h) => [h.before?.[c.id], h.after?.[c.id]])];
    for (const raw of new Set(raws)) {
      const to = typeof raw === "string" ? KINDS.fields[c.kind].links?.target(c, raw) : null;
      if (to && seen[to.register]) found.push({ column: c.id, raw: String(raw), to });
    }
  }
  const titles = new Map<string, string>();
  for (const key of new Set(found.map((f) => f.to.register))) {
    const ids = found.filter((f) => f.to.register === key && /^\d{1,18}$/.test(f.to.id)).map((f) => f.to.id);
    for (const r of await registers.recordsByIds(db, seen[key]!, ids))
      titles.set(`${key}/${r.id}`, recordTitle(seen[key]!, r));
  }
  const out: Pick<RecordPage, "links" | "linked"> = { links: {}, linked: {} };
  for (const { column, raw, to } of found) {
    const title = titles.get(`${to.register}/${to.id}`);
    if (title === undefined) continue;
    (out.linked[column] ??= {})[raw] = title;
    if (record[column] === raw) out.links[column] = { ...to, title };
  }
  Object.assign(
    out.linked,
    await fileNames(db, shape, [record, ...history.flatMap((h) => [h.before, h.after])]),
  );
  return out;
}

/** By column, what the files of records and of what they were before are called, by what stands in it. */
async function fileNames(
  db: Db,
  shape: RegisterShape,
  values: readonly (HistoryRow["before"] | RecordRow)[],
) {
  const named = fileColumns(shape).map((c) => ({
    column: c,
    held: [...new Set(values.flatMap((v) => (typeof v?.[c.id] === "string" ? [String(v[c.id])] : [])))],
  }));
  const ids = [...new Set(named.flatMap((n) => n.held.flatMap((raw) => idsIn(n.column, raw))))];
  const known = new Map(ids.length > 0 ? (await files.filesByIds(db, ids)).map((f) => [f.id, f.name]) : []);
  const called = (c: Column, raw: string) => idsIn(c, raw).flatMap((id) => known.get(id) ?? []);
  return Object.fromEntries(
    named.map((n) => [
      n.column.id,
      Object.fromEntries(
        n.held.flatMap((raw) => {
          const names = called(n.column, raw);
          return names.length > 0 ? [[raw, names.join(", ")]] : [];
        }),
      ),
    ]),
  );
}

/** A record as the history keeps it, with what is seen of it. */
const seenOf = (shape: RegisterShape, values: HistoryRow["before"]): HistoryRow["before"] =>
  values &&
  Object.fromEntries(Object.entries(values).filter(([id]) => shape.columns.some((c) => c.id === id)));
const sameIn = (shape: RegisterShape, a: HistoryRow["before"], b: HistoryRow["before"]): boolean =>
  shape.columns.every((c) => JSON.stringify(a?.[c.id] ?? null) === JSON.stringify(b?.[c.id] ?? null));

/**
 * Records whose text matches, for a look-up field; with their values, so that formulas can follow at once. Requests are
 * those one made, has on the desk or watches.
 */
export const lookUp = defineUseCase(
  ["read register", "use own"],
  async (c, key: string, search: string): Promise<{ id: string; title: string; record: StoredRecord }[]> => {
    if (key === REQUESTS) return requestsLike(c, search);
    const { shape, rows } = await pageOf(
      c,
      key,
      { search, filters: [], sort: [], offset: 0, limit: LOOKED_UP },
      "",
    );
    return rows.map((r) => {
      const record = Object.fromEntries(Object.entries(r).filter(([k]) => !k.endsWith("#"))) as RecordRow;
      return { id: r.id, title: recordTitle(shape, r), record };
    });
  },
);

async function requestsLike(c: Call, search: string) {
  c.must(
    { action: "use own", person: c.actor.id },
    { code: "not-allowed", data: { action: "look for requests" } },
  );
  const words = search.trim().slice(0, 100);
  const found = await searching((on) => requests.findRequests(on, c.actor.id, words, LOOKED_UP));
  const known = await requests.linkedRequests(
    getPool(),
    found.map((r) => r.number),
  );
  return found.flatMap((r) => {
    const record = known.find((k) => k.id === r.number);
    return record ? [{ id: r.number, title: `${r.number} · ${r.title}`, record }] : [];
  });
}

/** Indexes that registers made by an older version lack. */
export const indexRegisters = defineView(["run jobs"], async (c): Promise<{ made: number }> =>
  c.may({ action: "run jobs" }) ? { made: await registers.indexOldRegisters() } : { made: 0 },
);
