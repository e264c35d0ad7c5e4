import type { FormData } from "@/core/form";
import type { Db } from "./pool";

export interface FormDraftRow {
  id: string;
  person_id: string;
  process_key: string | null;
  request_id: string | null;
  task_id: string | null;
  data: FormData;
  /** What was pressed on a record's page, where it was begun so. */
  pressed: Pressed | null;
  changed_at: number;
}
interface Pressed {
  start: string;
  record: string;
}

export async function formDraft(db: Db, id: string, person: string): Promise<FormDraftRow | null> {
  return (
    (await db.query("select * from form_draft where id = $1 and person_id = $2", [id, person])).rows[0] ??
    null
  );
}
export async function taskDraft(
  db: Db,
  person: string,
  request: string,
  task: string,
): Promise<FormDraftRow | null> {
  return (
    (
      await db.query("select * from form_draft where person_id = $1 and request_id = $2 and task_id = $3", [
        person,
        request,
        task,
      ])
    ).rows[0] ?? null
  );
}
/**
 * Keeps a draft of a new request.
 * @param most drafts one person may have; a further one is not kept
 * @returns whether it was kept
 */
export const saveStartDraft = async (
  db: Db,
  d: {
    id: string;
    person: string;
    process: string;
    data: FormData;
    pressed: Pressed | null;
    at: string;
  },
  most: number,
): Promise<boolean> =>
  ((
    await db.query(
      `
        insert into form_draft (id, person_id, process_key, data, changed_at, pressed)
        select $1, $2, $3, $4::jsonb, $5::timestamptz, $7::jsonb
        where
          exists (select from form_draft where id = $1)
          or (select count(*) from form_draft where person_id = $2 and process_key is not null) < $6
        on conflict (id) do update
        set data = excluded.data, changed_at = excluded.changed_at
        where form_draft.person_id = excluded.person_id
      `,
      [d.id, d.person, d.process, JSON.stringify(d.data), d.at, most, d.pressed && JSON.stringify(d.pressed)],
    )
  ).rowCount ?? 0) > 0;
export const saveTaskDraft = (
  db: Db,
  d: { id: string; person: string; request: string; task: string; data: FormData; at: string },
) =>
  db.query(
    `
      insert into form_draft (id, person_id, request_id, task_id, data, changed_at)
      values ($1, $2, $3, $4, $5, $6)
      on conflict (person_id, request_id, task_id)
      where task_id is not null do update
      set data = excluded.data, changed_at = excluded.changed_at
    `,
    [d.id, d.person, d.request, d.task, JSON.stringify(d.data), d.at],
  );
export const deleteDraft = (db: Db, id: string, person: string) =>
  db.query("delete from form_draft where id = $1 and person_id = $2", [id, person]);
export const startDraftsOf = async (
  db: Db,
  person: string,
): Promise<{ id: string; process_key: string; changed_at: number; pressed: Pressed | null }[]> =>
  (
    await db.query(
      `
        select id, process_key, changed_at, pressed
        from form_draft
        where person_id = $1 and process_key is not null
        order by changed_at desc
        limit 20
      `,
      [person],
    )
  ).rows;

/** What somebody typed into a record, over which values of which version. */
export interface RecordDraft {
  typed: FormData;
  base: FormData;
  version: string | null;
}
/** @param of "objects/12", or "objects/new" */
export const recordDraft = async (db: Db, person: string, of: string): Promise<RecordDraft | null> =>
  (await db.query("select data from form_draft where person_id = $1 and record_of = $2", [person, of]))
    .rows[0]?.data ?? null;
export const saveRecordDraft = (
  db: Db,
  d: { id: string; person: string; of: string; data: RecordDraft; at: string },
) =>
  db.query(
    `
      insert into form_draft (id, person_id, record_of, data, changed_at)
      values ($1, $2, $3, $4, $5)
      on conflict (person_id, record_of)
      where record_of is not null do update
      set data = excluded.data, changed_at = excluded.changed_at
    `,
    [d.id, d.person, d.of, JSON.stringify(d.data), d.at],
  );
export const deleteRecordDraft = (db: Db, person: string, of: string) =>
  db.query("delete from form_draft where person_id = $1 and record_of = $2", [person, of]);

/** Removes drafts nobody went on with for so many days, by the machine's clock; how many. */
export const sweepDrafts = async (db: Db, days: number): Promise<number> =>
  (await db.query("delete from form_draft where changed_at < now() - make_interval(days => $1)", [days]))
    .rowCount ?? 0;
