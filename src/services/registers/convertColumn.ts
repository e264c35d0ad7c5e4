import {
  fieldValue,
  recordTitle,
  type Column,
  type RegisterShape,
  type SheetReading,
  type ValueFacts,
} from "@/core/form";
import { fieldOfColumn } from "@/core/records";
import { guessDates, guessDecimal, storedText, type SheetPlan } from "@/core/sheets";
import { registers, requests, type Db, type RecordRow } from "@/db";
import { KINDS } from "@/kinds";
import type { Directory } from "../kernel/directory";
import { namesIn } from "../sheets/sheetNames";
import { namesOf } from "../sheets/tryRows";

const LOT = 1000;

/** What becomes of what records hold in a column that comes to be of another kind. */
export interface Converted {
  column: Column;
  /** By the record's id, as the column keeps it then. */
  values: Map<string, string | boolean>;
  /** Records whose value nothing can be made of, with it as it stands. */
  lost: { id: string; title: string; text: string }[];
}

/** Of these nothing is asked but whether a text reads as its kind. */
const NOBODY: ValueFacts = {
  person: () => new Map(),
  record: () => new Map(),
  isPerson: () => false,
  isRecord: () => false,
  file: () => null,
  request: () => null,
};

/** A value that stands in a column, as a sheet's cell would have it. */
export interface KnownText {
  id: string;
  title: string;
  raw: string | boolean;
  text: string;
}

/**
 * What stands in a column of some records; those where it is empty are left out.
 * @param rows of the register as it is
 */
export async function textsOf(
  db: Db,
  d: Directory,
  seen: Readonly<Record<string, RegisterShape>>,
  before: RegisterShape,
  from: Column,
  rows: readonly RecordRow[],
): Promise<KnownText[]> {
  const names = await namesOf(db, { d, shape: { ...before, columns: [from] }, seen }, rows);
  return rows.flatMap((r) => {
    const raw = r[from.id];
    if (raw === null || raw === undefined || raw === "") return [];
    const text = storedText(from, raw, names, KINDS.fields);
    return [{ id: r.id, title: recordTitle(before, r), raw, text }];
  });
}

/** How texts are read that can be read in more than one way. */
export const readingOf = (texts: readonly string[]): SheetReading => {
  const cells = texts.map((text) => ({ text }));
  return { dates: guessDates(cells), decimal: guessDecimal(cells) };
};

/**
 * Reads what stands in a column as a sheet's cells would be read into one of another kind: dates and numbers as most of
 * them are written, people and records by name. A link that may lead on to where it led stays as it is.
 * @param seen the registers whoever does it may see
 */
export async function convertColumn(
  db: Db,
  d: Directory,
  seen: Readonly<Record<string, RegisterShape>>,
  before: RegisterShape,
  from: Column,
  to: Column,
): Promise<Converted> {
  const out: Converted = { column: to, values: new Map(), lost: [] };
  const known: KnownText[] = [];
  for (let after = "0"; ;) {
    const ids = await registers.idsAfter(db, before.key, after, LOT);
    if (ids.length === 0) break;
    after = ids.at(-1)!;
    const rows = await registers.recordsByIds(db, before, ids);
    known.push(...(await textsOf(db, d, seen, before, from, rows)));
  }
  const read = await readerOf(db, d, seen, before, from, to, known, readingOf(known.map((k) => k.text)));
  for (const k of known) {
    const value = read(k.raw, k.text);
    if (value === null) out.lost.push({ id: k.id, title: k.title, text: k.text });
    else out.values.set(k.id, value);
  }
  return out;
}

/** Whether a column of another kind keeps the files of one as they are: one file is a list of one. */
export const holdsSameFiles = (from: Column, to: Column): boolean =>
  KINDS.fields[from.kind].idOf === "file" &&
  KINDS.fields[to.kind].idOf === "file" &&
  KINDS.fields[to.kind].many !== null;

/** Reads values of one column as another of another kind would keep them; null for what nothing can be made of. */
export async function readerOf(
  db: Db,
  d: Directory,
  seen: Readonly<Record<string, RegisterShape>>,
  before: RegisterShape,
  from: Column,
  to: Column,
  known: readonly { text: string }[],
  reading: SheetReading,
): Promise<(raw: string | boolean, text: string) => string | boolean | null> {
  const kind = KINDS.fields[to.kind];
  const cells = known.map(({ text }) => ({ text }));
  const plan: SheetPlan = {
    matches: [to.id],
    key: null,
    reading,
    there: "change",
    absent: "leave",
    empty: "leave",
    aMinute: null,
    quietly: true,
  };
  const rows = cells.map((cell, i) => ({ line: i, cells: [cell] }));
  const named = await namesIn(db, d, seen, { ...before, columns: [to] }, plan, rows);
  const field = fieldOfColumn(to);
  const requested = kind.idOf === "request" ? cells.map((x) => x.text.trim().toUpperCase()) : [];
  const numbers = new Set((await requests.linkedRequests(db, [...new Set(requested)])).map((r) => r.id));
  const facts = { ...NOBODY, request: (n: string) => (numbers.has(n) ? new Map() : null) };
  return (raw, text) => {
    const led = typeof raw === "string" ? KINDS.fields[from.kind].links?.target(from, raw) : null;
    if (led && kind.links?.registers(to).includes(led.register)) return kind.links.pointer(led);
    if (typeof raw === "string" && holdsSameFiles(from, to)) return raw;
    const got = kind.cell?.(field, { text }, { reading, named: (x) => named(to.id, x) });
    if (!got || !("kept" in got) || got.kept === null) return null;
    // Whom or what a name stands for was found just now.
    if (kind.idOf === "person" || kind.idOf === "record") return got.kept;
    const v = fieldValue(to, got.kept, KINDS.fields, facts);
    return kind.mistakes(field, got.kept, v).length > 0 ? null : got.kept;
  };
}
