import { recordTitle, type RegisterShape } from "@/core/form";
import { getPool, registers, type HistoryRow, type RecordSearch, type RecordRow } from "@/db";
import type { Actor } from "./actor";
import { loadDirectory, personName } from "./directory";
import { Failed, outcome, type Outcome } from "./failure";
import { can } from "./policy";

export async function registerList(actor: Actor): Promise<{ shape: RegisterShape; count: number }[]> {
  if (!can(actor, { action: "read registers" })) return [];
  const db = getPool();
  const d = await loadDirectory(db);
  return Promise.all(Object.values(d.registers).map(async (shape) => ({ shape, count: await registers.countRecords(db, shape.key) })));
}

export interface RegisterPage {
  shape: RegisterShape;
  rows: RecordRow[];
  total: number;
  /** Names of people in person columns. */
  people: Record<string, string>;
}
export function registerPage(actor: Actor, key: string, search: RecordSearch): Promise<Outcome<RegisterPage>> {
  return outcome(async () => {
    const db = getPool();
    const d = await loadDirectory(db);
    const shape = d.registers[key];
    if (!shape || !can(actor, { action: "read registers" })) throw new Failed({ code: "not-found", data: { what: "register", id: key } });
    const { rows, total } = await registers.findRecords(db, shape, d.registers, { ...search, limit: Math.min(search.limit, 500) });
    const people: Record<string, string> = {};
    for (const c of shape.columns) if (c.kind === "person") for (const r of rows) if (r[c.id]) people[String(r[c.id])] = personName(d, String(r[c.id]));
    return { shape, rows, total, people };
  });
}

export interface RecordPage {
  shape: RegisterShape;
  record: RecordRow;
  title: string;
  links: Record<string, { register: string; id: string; title: string }>;
  people: Record<string, string>;
  history: (HistoryRow & { by_name: string | null })[];
}
/** One record with what it links to and every change made to it, newest first. */
export function recordPage(actor: Actor, key: string, id: string): Promise<Outcome<RecordPage>> {
  return outcome(async () => {
    const db = getPool();
    const d = await loadDirectory(db);
    const shape = d.registers[key];
    if (!shape || !can(actor, { action: "read registers" })) throw new Failed({ code: "not-found", data: { what: "register", id: key } });
    const record = /^\d{1,18}$/.test(id) ? (await registers.recordsByIds(db, shape, [id]))[0] : undefined;
    if (!record) throw new Failed({ code: "not-found", data: { what: shape.one, id } });
    const links: RecordPage["links"] = {};
    for (const c of shape.columns) {
      const target = c.kind === "look-up" && c.register ? d.registers[c.register] : undefined;
      const linked = target && record[c.id] ? (await registers.recordsByIds(db, target, [String(record[c.id])]))[0] : undefined;
      if (target && linked) links[c.id] = { register: target.key, id: linked.id, title: recordTitle(target, linked) };
    }
    const history = await registers.historyOf(db, key, id, 200);
    const people: Record<string, string> = {};
    for (const c of shape.columns) {
      if (c.kind !== "person") continue;
      for (const v of [record[c.id], ...history.flatMap((h) => [h.before?.[c.id], h.after?.[c.id]])]) if (typeof v === "string") people[v] = personName(d, v);
    }
    return {
      shape, record, title: recordTitle(shape, record), links, people,
      history: history.map((h) => ({ ...h, by_name: h.by_person ? personName(d, h.by_person) : null })),
    };
  });
}

/** Records whose text matches, for a look-up field; with their values, so that formulas can follow at once. */
export function lookUp(actor: Actor, key: string, search: string): Promise<Outcome<{ id: string; title: string; record: RecordRow }[]>> {
  return outcome(async () => {
    const page = await registerPage(actor, key, { search, filters: [], sort: null, offset: 0, limit: 20 });
    if (!page.ok) throw new Failed(page.failure);
    const { shape, rows } = page.value;
    return rows.map((r) => {
      const record = Object.fromEntries(Object.entries(r).filter(([k]) => !k.endsWith("#"))) as RecordRow;
      return { id: r.id, title: recordTitle(shape, r), record };
    });
  });
}
