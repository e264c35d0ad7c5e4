import Papa from "papaparse";
import type { Column } from "@/core/form";
import type { RowOutcome, SheetPlan } from "@/core/sheets";
import { at, getPool, sheetImports, type Db } from "@/db";
import { KINDS } from "@/kinds";
import { viaText } from "../kernel/actor";
import { nowMs } from "../kernel/clock";
import { defineUseCase, type Call } from "../kernel/defineUseCase";
import { loadDirectory } from "../kernel/directory";
import { Failed, type Failure } from "../kernel/failure";
import { noRegister, rightsToRecords } from "../registers/recordForm";
import { fillable, planMistake } from "./guessPlan";
import { FORMULA_SIGNS } from "./formulaSigns";
import { bringingOf, type Bringing } from "./ownSheet";

type Import = sheetImports.SheetImportRow;
/** Rows of a sheet that are shown at once. */
const SHOWN = 50;
/** Of each column of a sheet so many cells are shown as examples. */
const EXAMPLES = 3;
/** Sheets that are listed. */
const EARLIER = 10;
/** Refused rows of one sheet that are fetched as a file. */
const MOST_FETCHED = 100_000;

const noSheet = (id: string) => new Failed({ code: "not-found", data: { what: "sheet", id } });

/**
 * Takes a file to be brought into a register; a worker reads it.
 * @param register null for one that is to be made of it
 * @returns the id it is followed by
 */
export const bringSheet = defineUseCase(
  ["write records", "make register"],
  async (c, register: string | null, name: string, content: Buffer): Promise<{ id: string }> => {
    const db = getPool();
    const d = await loadDirectory(db);
    if (register === null) c.must({ action: "make register" }, MAKES);
    else {
      const may = rightsToRecords(d, c, register);
      c.must({ action: "write records", may: may.add || may.change }, noRegister(register));
    }
    const id = await sheetImports.insertImport(db, {
      register,
      person: c.actor.id,
      via: viaText(c.actor.via),
      name: name.slice(0, 200),
      content,
      at: at(await nowMs(db))!,
    });
    await sheetImports.queueImport(db, id);
    return { id };
  },
);

const MAKES: Failure = { code: "not-allowed", data: { action: "make registers" } };

/** A sheet of whoever asks, with what they may do in its register now. */
async function ownSheet(c: Call, db: Db, id: string): Promise<{ i: Import; b: Bringing }> {
  const i = /^\d{1,9}$/.test(id) ? await sheetImports.importOf(db, id) : null;
  const b = i?.person_id === c.actor.id ? await bringingOf(db, i) : null;
  c.must({ action: "write records", may: b !== null }, noSheet(id).failure);
  if (!i || !b) throw noSheet(id);
  return { i, b };
}

export interface SheetPage {
  sheet: Import;
  register: { key: string; name: string; one: string };
  /** The columns they may fill in, and of these the ones records may be found again by. */
  columns: Column[];
  keys: string[];
  /** By the sheet's columns, some of what stands there. */
  examples: string[][];
  /** Registers by key, of links among the columns. */
  registers: Readonly<Record<string, string>>;
  may: { add: boolean; change: boolean };
  rows: sheetImports.SheetRowRow[];
  more: boolean;
}

/** How far a sheet is, how it is matched, and what its rows come to. @param of rows that come to this, behind a line */
export const sheetPage = defineUseCase(
  ["write records"],
  async (c, id: string, of: RowOutcome | null, after: number): Promise<SheetPage> => {
    const db = getPool();
    const { i, b } = await ownSheet(c, db, id);
    const first = await sheetImports.rowsAfter(db, id, 0, EXAMPLES);
    const rows = await sheetImports.rowsAfter(db, id, after, SHOWN + 1, of && [of]);
    const columns = fillable(b.shape, b.may);
    const links = columns.flatMap((x) => KINDS.fields[x.kind].links?.registers(x) ?? []);
    return {
      sheet: i,
      register: { key: b.shape.key, name: b.shape.name, one: b.shape.one },
      columns,
      keys: columns.filter((x) => x.kind !== "yes or no").map((x) => x.id),
      examples: i.headings.map((_, n) => first.map((r) => r.cells[n]?.text.trim() ?? "").filter(Boolean)),
      registers: Object.fromEntries(links.map((k) => [k, b.seen[k]?.name ?? k])),
      may: { add: b.may.add, change: b.may.change },
      rows: rows.slice(0, SHOWN),
      more: rows.length > SHOWN,
    };
  },
);

/** Sheets somebody has brought into a register lately, newest first. */
export const sheetsOf = defineUseCase(["write records"], async (c, register: string): Promise<Import[]> => {
  const db = getPool();
  const may = rightsToRecords(await loadDirectory(db), c, register);
  c.must({ action: "write records", may: may.add || may.change }, noRegister(register));
  return sheetImports.importsOf(db, register, c.actor.id, EARLIER);
});

/** A sheet of whoever asks, whatever becomes of it. */
async function mySheet(c: Call, db: Db, id: string): Promise<Import> {
  const i = /^\d{1,9}$/.test(id) ? await sheetImports.importOf(db, id) : null;
  c.must({ action: "use own", person: i?.person_id ?? "" }, noSheet(id).failure);
  if (!i) throw noSheet(id);
  return i;
}

/** How far it is, for whoever waits. */
export const sheetFar = defineUseCase(
  ["use own"],
  async (c, id: string): Promise<Pick<Import, "status" | "asking" | "done" | "total">> => {
    const { status, asking, done, total } = await mySheet(c, getPool(), id);
    return { status, asking, done, total };
  },
);

/** Has it tried in another way. */
export const planSheet = defineUseCase(
  ["write records"],
  async (c, id: string, plan: SheetPlan): Promise<null> => {
    const db = getPool();
    const { i, b } = await ownSheet(c, db, id);
    const message = planMistake(plan, i.headings, b.shape, b.may);
    if (message !== null) throw new Failed({ code: "invalid", data: { path: "", message } });
    const set = { plan, status: "trying", asking: i.asking + 1, done: 0, counts: {}, starts: {} } as const;
    if (!(await sheetImports.changeImport(db, id, ["trying", "tried"], i.asking, set))) throw moved();
    await sheetImports.queueImport(db, id);
    return null;
  },
);
const moved = () =>
  new Failed({
    code: "invalid",
    data: { path: "", message: "This sheet has gone on meanwhile, on another page. Look at it again." },
  });

/** Has it written as it was tried. @param asking what was looked at */
export const writeSheet = defineUseCase(
  ["write records"],
  async (c, id: string, asking: number): Promise<null> => {
    const db = getPool();
    await ownSheet(c, db, id);
    if (!(await sheetImports.changeImport(db, id, ["tried"], asking, { status: "writing", done: 0 })))
      throw moved();
    await sheetImports.queueImport(db, id);
    return null;
  },
);

/** Stops it, wherever it is; what was being written is taken back. */
export const stopSheet = defineUseCase(["use own"], async (c, id: string): Promise<null> => {
  const db = getPool();
  await mySheet(c, db, id);
  const going = ["reading", "naming", "trying", "tried", "writing"] as const;
  const set = { status: "stopped", content: null, ended_at: at(await nowMs(db))! } as const;
  if (!(await sheetImports.changeImport(db, id, going, null, set))) throw moved();
  await sheetImports.deleteRows(db, id, []);
  return null;
});

/** The rows that were refused as a CSV (RFC 4180) to be mended and brought in again, with why each was. */
export const refusedRows = defineUseCase(
  ["write records"],
  async (c, id: string): Promise<{ name: string; csv: string }> => {
    const db = getPool();
    const { i } = await ownSheet(c, db, id);
    const rows = await sheetImports.rowsAfter(db, id, 0, MOST_FETCHED, ["refused"]);
    const data = rows.map((r) => [...i.headings.map((_, n) => r.cells[n]?.text ?? ""), r.why ?? ""]);
    return {
      name: `${i.name.replace(/\.[^.]*$/, "")} refused.csv`,
      csv: Papa.unparse(
        { fields: [...i.headings, "Why it was refused"], data },
        { escapeFormulae: FORMULA_SIGNS, newline: "\r\n" },
      ),
    };
  },
);
