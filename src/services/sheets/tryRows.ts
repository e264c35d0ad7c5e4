import { recordTitle, type StoredRecord } from "@/core/form";
import { fieldOfColumn, type RecordChange, type RecordWrite, type WriteRefusal } from "@/core/records";
import {
  planRow,
  storedText,
  type IdNames,
  type PlannedRow,
  type SheetPlan,
  type SheetRow,
} from "@/core/sheets";
import { rowMistakeSentence, writeRefusalSentence } from "@/core/words";
import { registers, type Db, type sheetImports } from "@/db";
import { KINDS } from "@/kinds";
import { personName } from "../kernel/directory";
import { seenRefusal } from "../registers/seenRefusal";
import { tryRecords, type Taken } from "../registers/tryRecords";
import type { Writing } from "../registers/writing";
import type { Bringing } from "./ownSheet";
import { linkName, namesIn } from "./sheetNames";

type RowCame = sheetImports.RowCame;

/** What is carried from one lot of rows to the next. */
export interface Trying {
  keys: Map<string, number>;
  taken: Taken;
}

/** What some rows of a sheet would come to, row by row, and what they would start; nothing is written. */
export async function tryRows(
  w: Writing,
  b: Bringing,
  plan: SheetPlan,
  rows: readonly SheetRow[],
  carried: Trying,
): Promise<{ came: RowCame[]; starts: Readonly<Record<string, number>> }> {
  const named = await namesIn(w.db, b.d, b.seen, b.whole, plan, rows);
  const there = await recordsByKey(w.db, b, plan, rows, named);
  const planned = rows.map((row) =>
    planRow(plan, row, {
      shape: b.whole,
      kinds: KINDS.fields,
      named,
      withKey: (v) => there.get(v) ?? [],
      keys: carried.keys,
    }),
  );
  const writes = planned.flatMap((p) => (p.as === "write" ? [p] : []));
  // In two lots, because what is added and what is changed is decided by a statement each.
  const lots = [writes.filter((p) => p.write.op === "add"), writes.filter((p) => p.write.op === "change")];
  const cameOf = new Map<PlannedRow, RowCame>();
  const starts: Record<string, number> = {};
  for (const lot of lots) {
    const tried = await tryRecords(
      w,
      b.whole.key,
      lot.map((p) => p.write),
      carried.taken,
    );
    for (const [k, n] of Object.entries(tried.starts)) starts[k] = (starts[k] ?? 0) + n;
    const changes = tried.wrote.flatMap((o) => (o.ok && o.change ? [o.change] : []));
    const names = await namesOf(
      w.db,
      b,
      changes.flatMap((c) => [c.before, c.after]),
    );
    for (const [i, p] of lot.entries()) {
      const o = tried.wrote[i]!;
      if (!o.ok) cameOf.set(p, refused(p.line, titleOf(b, p.before, p.write), whyOf(b, o.why)));
      else
        cameOf.set(p, {
          line: p.line,
          outcome: outcomeOf(p.before, o.change),
          write: o.change ? p.write : null,
          title: recordTitle(b.shape, { ...o.record, id: p.before ? o.record.id : "" }),
          what: o.change ? whatOf(b, p.before, o.record, names) : [],
          why: null,
        });
    }
  }
  return { came: planned.map((p) => cameOf.get(p) ?? unwritten(b, p, rows)), starts };
}

function outcomeOf(before: StoredRecord | null, change: RecordChange | null): RowCame["outcome"] {
  if (!change) return "same";
  return before ? "changed" : "added";
}
const refused = (line: number, title: string, why: string): RowCame => ({
  line,
  outcome: "refused",
  write: null,
  title,
  what: [],
  why,
});
const whyOf = (b: Bringing, why: WriteRefusal): string =>
  writeRefusalSentence(seenRefusal(b.actor, b, why), b.shape, b.d.registers);

const titleOf = (b: Bringing, before: StoredRecord | null, write: RecordWrite): string =>
  recordTitle(b.shape, before ?? { ...("values" in write ? write.values : {}), id: "" });

function unwritten(b: Bringing, p: PlannedRow, rows: readonly SheetRow[]): RowCame {
  const said = rows.find((r) => r.line === p.line)!.cells.find((c) => c.text.trim() !== "")?.text ?? "";
  if (p.as === "refused") return refused(p.line, said, rowMistakeSentence(p.mistake, b.d.registers));
  if (p.as === "write") throw new Error("a row that is written came to nothing");
  const why =
    p.why === "there" ? "It is there already, and is left as it is." : "It is not there, and is not added.";
  const title = p.before ? recordTitle(b.shape, p.before) : said;
  return { line: p.line, outcome: "left", write: null, title, what: [], why };
}

/** The records rows are about, by what stands in the key's cells. */
async function recordsByKey(
  db: Db,
  b: Bringing,
  plan: SheetPlan,
  rows: readonly SheetRow[],
  named: (column: string, text: string) => ReturnType<Awaited<ReturnType<typeof namesIn>>>,
) {
  const out = new Map<string, { record: StoredRecord; version: string }[]>();
  const column = b.whole.columns.find((c) => c.id === plan.key);
  const at = plan.key === null ? -1 : plan.matches.indexOf(plan.key);
  if (!column || at < 0) return out;
  const read = KINDS.fields[column.kind].cell!;
  const values = new Set<string>();
  for (const r of rows) {
    const got = read(fieldOfColumn(column), r.cells[at] ?? { text: "" }, {
      reading: plan.reading,
      named: (text) => named(column.id, text),
    });
    if ("kept" in got && got.kept !== null) values.add(String(got.kept));
  }
  const found = await registers.recordsWithAny(db, b.whole, column.id, [...values]);
  const ids = [...found.values()].flatMap((rs) => rs.map((r) => r.id));
  const versions = await registers.versionsOf(db, b.whole.key, ids);
  for (const [value, records] of found)
    out.set(
      value,
      records.map((record) => ({ record, version: versions.get(record.id) ?? "0" })),
    );
  return out;
}

/** What ids in records stand for. */
export async function namesOf(
  db: Db,
  { d, shape, seen }: Pick<Bringing, "d" | "shape" | "seen">,
  records: readonly (StoredRecord | null)[],
): Promise<IdNames> {
  const titles = new Map<string, string>();
  for (const c of shape.columns) {
    const { links } = KINDS.fields[c.kind];
    const raws = new Set(records.flatMap((r) => (r && typeof r[c.id] === "string" ? [String(r[c.id])] : [])));
    for (const key of links?.registers(c) ?? []) {
      const target = seen[key];
      if (!target) continue;
      const byId = new Map(
        [...raws].flatMap((raw) => {
          const to = links!.target(c, raw);
          return to?.register === key && /^\d{1,18}$/.test(to.id) ? [[to.id, raw] as const] : [];
        }),
      );
      for (const r of await registers.recordsByIds(db, target, [...byId.keys()])) {
        const title = String(r[target.title[0] ?? ""] ?? recordTitle(target, r));
        const raw = byId.get(r.id)!;
        titles.set(`${c.id} ${raw}`, linkName(c, raw, title, seen));
      }
    }
  }
  return {
    person: (id) => personName(d, id),
    record: (column, id) => titles.get(`${column} ${id}`) ?? id,
    // No sheet says anything of files.
    file: (_, id) => id,
  };
}

/** What becomes other, column by column, of what they see. */
function whatOf(
  b: Bringing,
  before: StoredRecord | null,
  after: StoredRecord,
  names: IdNames,
): RowCame["what"] {
  return b.shape.columns.flatMap((c) => {
    const [was, is] = [before?.[c.id] ?? null, after[c.id] ?? null];
    if (was === is) return [];
    return [
      {
        column: c.name,
        before: storedText(c, was, names, KINDS.fields),
        after: storedText(c, is, names, KINDS.fields),
      },
    ];
  });
}
