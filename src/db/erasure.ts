import { isAccount } from "@/core/form";
import type { RequestEvent, RequestState } from "@/core/engine";
import { EVENT, storedState } from "@/formats";
import { at, type Db } from "./pool";

/** Ended requests of a process whose personal values have been kept long enough, oldest first. */
export const dueToBlank = async (db: Db, process: string, before: string, limit: number): Promise<string[]> =>
  (
    await db.query(
      `
        select id
        from request
        where process_key = $1 and ended_at is not null and ended_at < $2 and blanked_at is null
        order by ended_at
        limit $3
      `,
      [process, before, limit],
    )
  ).rows.map((r) => r.id);

/** Requests somebody made or led to, or did something on. */
export const requestsTouchedBy = async (
  db: Db,
  person: string,
): Promise<{ id: string; process: string; own: boolean; ended: boolean }[]> =>
  (
    await db.query(
      `
        select
          r.id,
          r.process_key as process,
          coalesce(r.requester_id = $1, false)
          or coalesce(r.party #>> '{behind,id}' = $1, false) as own,
          r.ended_at is not null as ended
        from request r
        where
          r.requester_id = $1
          or (r.party is not null and r.party #>> '{behind,id}' = $1)
          or r.id in (select e.request_id from request_event e where e.by_person = $1)
        order by r.id
      `,
      [person],
    )
  ).rows;

/** Writes a request's events and state anew, as they are without what is forgotten. */
export async function rewriteRequest(
  db: Db,
  id: string,
  r: { events: readonly RequestEvent[]; state: RequestState; title: string; at: string | null },
): Promise<void> {
  const rows = r.events.map(({ seq, type, at: when, by, ...body }) => ({
    seq,
    type,
    at: at(when),
    by_person: by,
    body,
  }));
  await db.query(
    `
      insert into request_event as e (request_id, seq, type, at, by_person, body, format)
      select $1, n.seq, n.type, n.at, n.by_person, n.body, ${EVENT.newest}
      from jsonb_to_recordset($2::jsonb) as n (seq int, type text, at timestamptz, by_person text, body jsonb)
      on conflict (request_id, seq) do update
      set body = excluded.body, format = excluded.format
    `,
    [id, JSON.stringify(rows)],
  );
  await db.query(
    `
      update request
      set
        state = $2,
        version = $3,
        title = $4,
        blanked_at = coalesce($5, blanked_at),
        in_parts = false,
        party = $6
      where id = $1
    `,
    [
      id,
      JSON.stringify(storedState(r.state)),
      r.state.seq,
      r.title,
      r.at,
      isAccount(r.state.requester) ? null : JSON.stringify(r.state.requester),
    ],
  );
  await db.query("delete from request_part where request_id = $1", [id]);
  // What a task was about may be one of its values.
  await db.query("update task set about = '' where request_id = $1 and about <> ''", [id]);
  await db.query("delete from form_draft where request_id = $1", [id]);
}

/** Nothing personal was in it; it is not looked at again. */
export const markBlanked = (db: Db, id: string, at: string) =>
  db.query("update request set blanked_at = $2 where id = $1", [id, at]);

/** Notices about a request say no more than that there was one. */
export const forgetNotices = (db: Db, request: string, number: string) =>
  db.query("update notice set subject = $2, body = '', facts = facts - 'about' where request_id = $1", [
    request,
    number,
  ]);
/** What was still to be told for a request would say what is forgotten. */
export const dropTellings = (db: Db, request: string) =>
  db.query(
    `
      select graphile_worker.complete_jobs(
        array(
          select j.id
          from graphile_worker._private_jobs j
          where j.payload ->> 'request' = $1 and j.payload -> 'effect' is not null
        )
      )
    `,
    [request],
  );
export const deleteFiles = (db: Db, request: string, ids: readonly string[]) =>
  db.query("delete from file where request_id = $1 and id = any($2)", [request, ids]);

/**
 * What was drawn up for a request, told by that nobody added it and it came with no mail.
 * @param kept what is left of the request's data: a file that is told there stays
 */
export const deleteDrawnUp = (db: Db, request: string, kept: string) =>
  db.query(
    `
      delete from file
      where request_id = $1 and added_by is null and message_id is null and position(id in $2) = 0
    `,
    [request, kept],
  );

/** A JSON object with the values emptied that are, or hold, one of the texts $2. */
const without = (column: string) => `
  (
    select jsonb_object_agg(
      v.key,
      case
        when exists (
          select from unnest($2::text[]) t
          where v.value #>> '{}' = t or (length(t) >= 3 and position(lower(t) in lower(v.value #>> '{}')) > 0)
        ) then 'null'::jsonb
        else v.value
      end
    )
    from jsonb_each(case when jsonb_typeof(${column}) = 'object' then ${column} end) v
  )`;

/**
 * Empties, in the history of records that a request wrote, what it took from values that are forgotten: columns whose
 * text is one of them or holds one of some length.
 */
export const forgetHistory = (db: Db, number: string, texts: readonly string[]) =>
  db.query(
    `
      update register_history h
      set before = ${without("h.before")}, after = ${without("h.after")}
      where h.request_number = $1
    `,
    [number, texts],
  );

/** What one person has begun and not sent, and what they were told. */
export async function forgetOwn(db: Db, person: string): Promise<void> {
  await db.query("delete from form_draft where person_id = $1", [person]);
  await db.query("delete from sheet_import where person_id = $1", [person]);
  await db.query("delete from register_view where person_id = $1", [person]);
  await db.query("delete from notice where person_id = $1", [person]);
  for (const own of ["chat_account", "chat_code", "news_way", "quiet_time", "sheet_widths"])
    await db.query(`delete from ${own} where person_id = $1`, [person]);
  await db.query(
    "update record_note set body = '', removed_at = coalesce(removed_at, now()) where by_person = $1",
    [person],
  );
}

/** What steps of a request have said on records. */
export const forgetNotes = (db: Db, number: string) =>
  db.query(
    "update record_note set body = '', removed_at = coalesce(removed_at, now()) where request_number = $1",
    [number],
  );
