import type { RecordWrite } from "@/core/records";
import type { RowOutcome, SheetPlan, SheetRow } from "@/core/sheets";
import type { Db } from "./pool";

export type ImportStatus =
  "reading" | "naming" | "trying" | "tried" | "writing" | "done" | "stopped" | "failed";

export interface SheetImportRow {
  id: string;
  register_key: string | null;
  person_id: string;
  via: string | null;
  name: string;
  status: ImportStatus;
  asking: number;
  headings: string[];
  notes: string[];
  plan: SheetPlan | null;
  counts: Partial<Record<RowOutcome, number>>;
  /** How many requests start, by process. */
  starts: Record<string, number>;
  done: number;
  total: number;
  why: string | null;
  at: number;
  ended_at: number | null;
}
const SELECTED = `id::text as id, register_key, person_id, via, name, status, asking, headings, notes, plan, counts, starts, done, total, why,
  at, ended_at`;

/** What a row came to. */
export interface RowCame {
  line: number;
  outcome: RowOutcome;
  write: RecordWrite | null;
  title: string;
  what: { column: string; before: string; after: string }[];
  why: string | null;
}
export interface SheetRowRow extends SheetRow {
  outcome: RowOutcome | null;
  write: RecordWrite | null;
  title: string | null;
  what: RowCame["what"] | null;
  why: string | null;
}

export async function insertImport(
  db: Db,
  i: {
    register: string | null;
    person: string;
    via: string | null;
    name: string;
    content: Buffer;
    at: string;
  },
): Promise<string> {
  const { rows } = await db.query(
    `
      insert into sheet_import (register_key, person_id, via, name, content, status, at)
      values ($1, $2, $3, $4, $5, 'reading', $6)
      returning id::text as id
    `,
    [i.register, i.person, i.via, i.name, i.content, i.at],
  );
  return rows[0].id;
}
export const importOf = async (db: Db, id: string): Promise<SheetImportRow | null> =>
  (await db.query(`select ${SELECTED} from sheet_import where id = $1`, [id])).rows[0] ?? null;

/** The newest of one person for a register that are not over, or ended a short while ago. */
export const importsOf = async (
  db: Db,
  register: string,
  person: string,
  most: number,
): Promise<SheetImportRow[]> =>
  (
    await db.query(
      `select ${SELECTED} from sheet_import where register_key = $1 and person_id = $2 order by sheet_import.id desc limit $3`,
      [register, person, most],
    )
  ).rows;

export const contentOf = async (db: Db, id: string): Promise<Buffer | null> =>
  (await db.query("select content from sheet_import where id = $1", [id])).rows[0]?.content ?? null;

/** Has a worker go on with it. */
export const queueImport = (db: Db, id: string) =>
  db.query(
    "select graphile_worker.add_job('sheet_import', json_build_object('import', $1::text), max_attempts := 5)",
    [id],
  );

/** Changes where it still stands as it was asked for. @returns whether it did */
export async function changeImport(
  db: Db,
  id: string,
  from: readonly ImportStatus[],
  asking: number | null,
  set: Partial<Omit<SheetImportRow, "id" | "at" | "ended_at">> & { content?: null; ended_at?: string },
): Promise<boolean> {
  const values: unknown[] = [id, from, asking];
  const json = (v: unknown) => (typeof v === "object" && v !== null ? JSON.stringify(v) : v);
  const sets = Object.entries(set).map(([k, v]) => `${k} = $${values.push(json(v))}`);
  const { rowCount } = await db.query(
    `update sheet_import set ${sets.join(", ")} where id = $1 and status = any ($2) and ($3::int is null or asking = $3)`,
    values,
  );
  return rowCount === 1;
}

export const insertRows = (db: Db, id: string, rows: readonly SheetRow[]) =>
  db.query(
    `
      insert into sheet_row (import_id, line, cells)
      select $1, line, cells
      from jsonb_to_recordset($2::jsonb) as r (line int, cells jsonb)
      on conflict do nothing
    `,
    [id, JSON.stringify(rows)],
  );
export const deleteRows = (db: Db, id: string, keep: readonly RowOutcome[]) =>
  db.query("delete from sheet_row where import_id = $1 and not coalesce(outcome = any ($2), false)", [
    id,
    keep,
  ]);

export const rowsAfter = async (
  db: Db,
  id: string,
  line: number,
  most: number,
  outcomes: readonly RowOutcome[] | null = null,
): Promise<SheetRowRow[]> =>
  (
    await db.query(
      `
        select line, cells, outcome, write, title, what, why
        from sheet_row
        where import_id = $1 and line > $2 and ($4::text[] is null or outcome = any ($4))
        order by line
        limit $3
      `,
      [id, line, most, outcomes],
    )
  ).rows;

/** Says what rows came to, where that is still asked. */
export const rowsCame = (db: Db, id: string, asking: number, rows: readonly RowCame[]) =>
  db.query(
    `
      update sheet_row s
      set outcome = r.outcome, write = r.write, title = r.title, what = r.what, why = r.why
      from
        jsonb_to_recordset($3::jsonb) as r (line int, outcome text, write jsonb, title text, what jsonb, why text),
        sheet_import i
      where s.import_id = $1 and s.line = r.line and i.id = $1 and i.asking = $2
    `,
    [id, asking, JSON.stringify(rows)],
  );

/** Sheets nobody went on with for so many days; what they held goes with them. */
export const sweepImports = async (db: Db, days: number): Promise<number> =>
  (await db.query("delete from sheet_import where at < now() - make_interval(days => $1)", [days]))
    .rowCount ?? 0;
