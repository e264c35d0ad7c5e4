import type { Db } from "./pool";

/** Widths in pixels by column; none where a person drew none. */
export const sheetWidths = async (db: Db, person: string): Promise<Record<string, unknown>> =>
  (await db.query("select widths from sheet_widths where person_id = $1", [person])).rows[0]?.widths ?? {};

export const setSheetWidths = (db: Db, person: string, widths: Readonly<Record<string, number>>) =>
  db.query(
    `
      insert into sheet_widths (person_id, widths)
      values ($1, $2)
      on conflict (person_id) do update
      set widths = excluded.widths
    `,
    [person, JSON.stringify(widths)],
  );
