import type { Db } from "./pool";

export interface RecordNoteRow {
  id: string;
  by_person: string | null;
  request_number: string | null;
  body: string;
  mentioned: string[];
  at: number;
}

export const addRecordNote = async (
  db: Db,
  n: { register: string; record: string; by: string; body: string; mentioned: readonly string[]; at: string },
): Promise<string> =>
  (
    await db.query(
      `
        insert into record_note (register_key, record_id, by_person, body, mentioned, at)
        values ($1, $2, $3, $4, $5, $6)
        returning id::text as id
      `,
      [n.register, n.record, n.by, n.body, n.mentioned, n.at],
    )
  ).rows[0].id;

/** The newest notes on a record that were not taken away. */
export const recordNotesOf = async (
  db: Db,
  register: string,
  record: string,
  limit: number,
): Promise<RecordNoteRow[]> =>
  (
    await db.query(
      `
        select id::text as id, by_person, request_number, body, mentioned, at
        from record_note
        where register_key = $1 and record_id = $2 and removed_at is null
        order by record_note.id desc
        limit $3
      `,
      [register, record, limit],
    )
  ).rows;

/** Where a note stands and who wrote it; null where there is none, or none any more. */
export const recordNote = async (
  db: Db,
  id: string,
): Promise<{ register: string; by_person: string | null } | null> =>
  (
    await db.query(
      "select register_key as register, by_person from record_note where id = $1 and removed_at is null for update",
      [id],
    )
  ).rows[0] ?? null;

/** Takes a note away with what it said; that there was one stays known to the database alone. */
export const removeRecordNote = (db: Db, id: string, at: string) =>
  db.query("update record_note set removed_at = $2, body = '', mentioned = '{}' where id = $1", [id, at]);

/** Tells somebody that they are mentioned on a record, unless they want no such news. */
export const tellMentioned = async (
  db: Db,
  n: {
    person: string;
    register: string;
    record: string;
    note: string;
    facts: unknown;
    body: string;
    at: string;
  },
): Promise<void> => {
  await db.query(
    `
      with
        told as (
          insert into notice (person_id, effect_key, kind, subject, body, facts, register_key, record_id, created_at)
          select $1, 'note:' || $2, 'mentioned', '', $3, $4, $5, $6, $7
          where not exists (select from news_off where person_id = $1 and kind = 'mentioned')
          on conflict do nothing
          returning id
        ),
        beyond as (
          insert into news_sent (notice_id, way, state)
          select told.id, w.way, 'waiting'
          from told join news_way w on w.person_id = $1 and w.kind = 'mentioned'
          returning notice_id, way
        )
      select
        graphile_worker.add_job (
          'send_news',
          json_build_object('notice', b.notice_id::text, 'way', b.way),
          max_attempts := 25
        )
      from beyond b
    `,
    [n.person, n.note, n.body, JSON.stringify(n.facts), n.register, n.record, n.at],
  );
};
