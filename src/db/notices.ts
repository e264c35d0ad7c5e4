import type { NewsKind } from "@/core/engine";
import { at, type Db } from "./pool";

/** Adds a notice once per person and effect: delivering a second time changes nothing. */
export const insertNotice = async (
  db: Db,
  n: { person: string; request: string | null; effectKey: string; subject: string; body: string; at: string },
): Promise<boolean> =>
  ((
    await db.query(
      `
        insert into notice (person_id, request_id, effect_key, subject, body, created_at)
        values ($1, $2, $3, $4, $5, $6)
        on conflict do nothing
      `,
      [n.person, n.request, n.effectKey, n.subject, n.body, n.at],
    )
  ).rowCount ?? 0) > 0;

export interface NoticeRow {
  id: string;
  kind: NewsKind | "told";
  number: string | null;
  /** Null where its person may not see the request, or not any more. */
  title: string | null;
  /** The task it is about, while it waits for this person. */
  open_task: string | null;
  facts: unknown;
  subject: string;
  body: string;
  /** The record it is about, where it is about no request. */
  register_key: string | null;
  record_id: string | null;
  created_at: number;
  read: boolean;
}

/** News that asks for something is read once that is done, by whomever. */
const ASKS = `n.kind in ('task came', 'covering', 'handed over', 'sent back', 'reminded')`;
/** By its key for each notice: as "exists" it would be tempting to read all candidates there are. */
const MINE = `
  coalesce(
    (
      select c.open
      from task_candidate c
      where c.request_id = n.request_id and c.task_id = n.task_id and c.person_id = n.person_id
    ),
    false
  )
`;

/** The newest notices of a person. */
export const noticesOf = async (db: Db, person: string, limit: number): Promise<NoticeRow[]> =>
  (
    await db.query({
      name: "notices-of",
      text: `
        select
          n.id,
          n.kind,
          r.number,
          case
            when
              r.requester_id = n.person_id
              or exists (
                select 1
                from task_candidate c
                where c.request_id = r.id and c.person_id = n.person_id
              )
              or exists (
                select 1
                from process_owner o
                where o.process_key = r.process_key and o.person_id = n.person_id
              )
            then r.title
          end as title,
          case when ${MINE} then n.task_id end as open_task,
          n.facts,
          n.subject,
          n.body,
          n.register_key,
          n.record_id::text as record_id,
          n.created_at,
          n.read_at is not null or (${ASKS} and not ${MINE}) as read
        from
          (
            select *
            from notice
            where person_id = $1
            order by id desc
            limit $2
          ) n left join request r on r.id = n.request_id
        order by n.id desc
      `,
      values: [person, limit],
    })
  ).rows;

/** Tasks that wait for somebody and notices that are new, counted up to a limit; and whether they own a process. */
export const badgesOf = async (
  db: Db,
  person: string,
  mostUnread: number,
): Promise<{ desk: number; unread: number; owns: boolean }> =>
  (
    await db.query({
      name: "badges",
      text: `
        select
          (
            select count(*)::int
            from task_candidate
            where person_id = $1 and open
          ) as desk,
          (
            select count(*)::int
            from
              (
                select 1
                from notice n
                where n.person_id = $1 and n.read_at is null and not (${ASKS} and not ${MINE})
                limit $2
              ) x
          ) as unread,
          exists (
            select 1
            from process_owner
            where person_id = $1
          ) as owns
      `,
      values: [person, mostUnread],
    })
  ).rows[0];

/** Those up to the newest that was shown; what came after is still new. */
export const markRead = (db: Db, person: string, upTo: string, readAt: number) =>
  db.query("update notice set read_at = $3 where person_id = $1 and id <= $2 and read_at is null", [
    person,
    upTo,
    at(readAt),
  ]);

export const newsOff = async (db: Db, person: string): Promise<NewsKind[]> =>
  (await db.query("select kind from news_off where person_id = $1", [person])).rows.map((r) => r.kind);

export const setNewsOff = (db: Db, person: string, kind: NewsKind, off: boolean) =>
  off
    ? db.query("insert into news_off (person_id, kind) values ($1, $2) on conflict do nothing", [
        person,
        kind,
      ])
    : db.query("delete from news_off where person_id = $1 and kind = $2", [person, kind]);
