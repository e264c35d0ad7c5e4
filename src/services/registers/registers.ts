import { KINDS } from "@/kinds";
import { Temporal } from "temporal-polyfill";
import { environment, sqlCondition, type FormulaProblem, type Value } from "@/core/expression";
import { fieldType, recordScope, recordTitle, type RegisterShape } from "@/core/form";
import {
  getPool,
  registers,
  searching,
  type Db,
  type HistoryRow,
  type RecordSearch,
  type RecordRow,
} from "@/db";
import { nowMs } from "../kernel/clock";
import { loadDirectory, personName, registerOf, type Directory } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { defineUseCase, defineView, type Call } from "../kernel/defineUseCase";

export const registerList = defineView(
  ["read registers"],
  async (c): Promise<{ shape: RegisterShape; count: number }[]> => {
    if (!c.may({ action: "read registers" })) return [];
    const db = getPool();
    const d = await loadDirectory(db);
    return Promise.all(
      Object.values(d.registers).map(async (shape) => ({
        shape,
        count: await registers.countRecords(db, shape.key),
      })),
    );
  },
);

export interface RegisterPage {
  shape: RegisterShape;
  /** The register and those it links to, for conditions that follow links. */
  registers: Record<string, RegisterShape>;
  rows: RecordRow[];
  total: number;
  /** Names of people in person columns. */
  people: Record<string, string>;
}
/** The condition of a search as SQL, or a failure that names the part of it that cannot be searched for. */
async function whereOf(
  db: Db,
  d: Directory,
  shape: RegisterShape,
  formula: string,
  zone: string,
): Promise<NonNullable<RecordSearch["where"]>> {
  const columns = recordScope(shape, { registers: d.registers, kinds: KINDS });
  const find = registers.columnsAsSql(shape, d.registers);
  const made = sqlCondition(formula, columns, {}, (path) => {
    const c = find(path);
    return c && { ...c, type: fieldType(c.column, { registers: d.registers, kinds: KINDS }) };
  });
  if (!made.ok)
    throw new Failed({ code: "invalid", data: { path: "Condition", message: made.problems[0]!.message } });
  const now = Temporal.Instant.fromEpochMilliseconds(await nowMs(db)).toZonedDateTimeISO(zone);
  const notes: FormulaProblem[] = [];
  const env = { ...environment(new Map<string, Value>(), { now }), notes };
  return (bind) => {
    const where = made.condition.where(env, bind);
    // What cannot be worked out is not empty: records must not be left out, or found, for want of it.
    const failed = notes.find((n) => n.code !== "was-empty");
    if (failed) throw new Failed({ code: "invalid", data: { path: "Condition", message: failed.message } });
    return where;
  };
}

/** @param condition a formula over the columns that every record shown must meet */
export const registerPage = defineUseCase(
  ["read registers"],
  (c, key: string, search: RecordSearch, condition: string = ""): Promise<RegisterPage> =>
    pageOf(c, key, search, condition),
);

async function pageOf(c: Call, key: string, search: RecordSearch, condition: string): Promise<RegisterPage> {
  const db = getPool();
  const d = await loadDirectory(db);
  const shape = registerOf(d, key);
  if (!shape || !c.may({ action: "read registers" }))
    throw new Failed({ code: "not-found", data: { what: "register", id: key } });
  const where =
    condition.trim() === "" ? {} : { where: await whereOf(db, d, shape, condition, c.actor.zone) };
  const limit = Math.min(search.limit, 500);
  const { rows, total } = await searching((on) =>
    registers.findRecords(on, shape, d.registers, { ...search, ...where, limit }),
  );
  const people: Record<string, string> = {};
  for (const c of shape.columns)
    if (c.kind === "person")
      for (const r of rows) if (r[c.id]) people[String(r[c.id])] = personName(d, String(r[c.id]));
  const near = [
    key,
    ...shape.columns.flatMap((c) => (c.kind === "look-up" && c.register ? [c.register] : [])),
  ];
  return {
    shape,
    registers: Object.fromEntries(near.flatMap((k) => (d.registers[k] ? [[k, d.registers[k]]] : []))),
    rows,
    total,
    people,
  };
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
export const recordPage = defineUseCase(
  ["read registers"],
  async (c, key: string, id: string): Promise<RecordPage> => {
    const db = getPool();
    const d = await loadDirectory(db);
    const shape = registerOf(d, key);
    if (!shape || !c.may({ action: "read registers" }))
      throw new Failed({ code: "not-found", data: { what: "register", id: key } });
    const record = /^\d{1,18}$/.test(id) ? (await registers.recordsByIds(db, shape, [id]))[0] : undefined;
    if (!record) throw new Failed({ code: "not-found", data: { what: shape.one, id } });
    const links: RecordPage["links"] = {};
    for (const c of shape.columns) {
      const target = c.kind === "look-up" && c.register ? d.registers[c.register] : undefined;
      const linked =
        target && record[c.id]
          ? (await registers.recordsByIds(db, target, [String(record[c.id])]))[0]
          : undefined;
      if (target && linked)
        links[c.id] = { register: target.key, id: linked.id, title: recordTitle(target, linked) };
    }
    const history = await registers.historyOf(db, key, id, 200);
    const people: Record<string, string> = {};
    for (const c of shape.columns) {
      if (c.kind !== "person") continue;
      for (const v of [record[c.id], ...history.flatMap((h) => [h.before?.[c.id], h.after?.[c.id]])])
        if (typeof v === "string") people[v] = personName(d, v);
    }
    return {
      shape,
      record,
      title: recordTitle(shape, record),
      links,
      people,
      history: history.map((h) => ({ ...h, by_name: h.by_person ? personName(d, h.by_person) : null })),
    };
  },
);

/** Records whose text matches, for a look-up field; with their values, so that formulas can follow at once. */
export const lookUp = defineUseCase(
  ["read registers"],
  async (c, key: string, search: string): Promise<{ id: string; title: string; record: RecordRow }[]> => {
    const { shape, rows } = await pageOf(
      c,
      key,
      { search, filters: [], sort: null, offset: 0, limit: 20 },
      "",
    );
    return rows.map((r) => {
      const record = Object.fromEntries(Object.entries(r).filter(([k]) => !k.endsWith("#"))) as RecordRow;
      return { id: r.id, title: recordTitle(shape, r), record };
    });
  },
);

/** Indexes that registers made by an older version lack. */
export const indexRegisters = defineView(["run jobs"], async (c): Promise<{ made: number }> =>
  c.may({ action: "run jobs" }) ? { made: await registers.indexOldRegisters() } : { made: 0 },
);
