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
/** As it is listed. */
export interface ListedNotice extends NoticeRow {
  /** How many reminders of its minute it stands for; 1 for what is no reminder. */
  reminders: number;
  /** Numbers of the requests of some of them, the newest first. */
  reminds_of: string[];
}

/** Reminders that are named, where one notice stands for several. */
const NAMED = 5;

/**
 * Of the reminders of one minute only the newest is listed and counted, for all of them. They are put together as they are
 * read: together as they are written, requests would wait for each other, and two that remind the same people could
 * each hold what the other waits for.
 */
const STANDS_FOR_ALL = `
  (
    n.reminds_at is null
    or not exists (
      select
      from notice m
      where m.person_id = n.person_id and m.reminds_at = n.reminds_at and m.id > n.id
    )
  )
`;

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

/** What is shown of a notice `n`, with its request `r`. */
const SHOWN = `
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
        from request_mention m
        where m.request_id = r.id and m.person_id = n.person_id
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
`;

/** The newest notices of a person. */
export const noticesOf = async (db: Db, person: string, limit: number): Promise<ListedNotice[]> =>
  (
    await db.query({
      name: "notices-of",
      text: `
        select
          ${SHOWN},
          case
            when n.reminds_at is null then 1
            else (
              select count(*)::int
              from notice m
              where m.person_id = n.person_id and m.reminds_at = n.reminds_at
            )
          end as reminders,
          case
            when n.reminds_at is null then '{}'
            else array(
              select o.number
              from notice m join request o on o.id = m.request_id
              where m.person_id = n.person_id and m.reminds_at = n.reminds_at
              order by m.id desc
              limit $3
            )
          end as reminds_of
        from
          (
            select *
            from notice n
            where person_id = $1 and ${STANDS_FOR_ALL}
            order by id desc
            limit $2
          ) n left join request r on r.id = n.request_id
        order by n.id desc
      `,
      values: [person, limit, NAMED],
    })
  ).rows;

/** News that is to go by another way than the screen. */
export interface NewsToSend extends NoticeRow {
  person_id: string;
  way: NewsWay;
  state: "waiting" | "given" | "sent" | "left";
  tries: number;
  /** By this way they were asked already, by the process itself. */
  asked: boolean;
  /** By their own clock, as "22:00"; null for none. */
  quiet_from: string | null;
  quiet_until: string | null;
}
export type NewsWay = "mail" | "chat";

export const newsToSend = async (db: Db, notice: string, way: NewsWay): Promise<NewsToSend | null> =>
  (
    await db.query(
      `
        select
          ${SHOWN},
          n.person_id,
          s.way,
          s.state,
          s.tries,
          ${ASKS} and exists (
            select
            from message m
            where
              m.state <> 'returned'
              and m.request_id = n.request_id
              and m.task_id = n.task_id
              and m.person_id = n.person_id
              and m.channel = s.way
              and starts_with(m.effect, 'ask:')
          ) as asked,
          to_char(q.starts, 'HH24:MI') as quiet_from,
          to_char(q.ends, 'HH24:MI') as quiet_until
        from
          news_sent s
          join notice n on n.id = s.notice_id
          left join request r on r.id = n.request_id
          left join quiet_time q on q.person_id = n.person_id
        where s.notice_id = $1 and s.way = $2
      `,
      [notice, way],
    )
  ).rows[0] ?? null;

/** Says what came of news that was not out yet. Whoever says so holds it. */
export const noteNews = (
  db: Db,
  notice: string,
  way: NewsWay,
  to: { state: NewsToSend["state"]; why?: string; tried?: true },
) =>
  db.query(
    `
      update news_sent
      set state = $3, why = $4, tries = tries + $5
      where notice_id = $1 and way = $2 and state in ('waiting', 'given')
    `,
    [notice, way, to.state, to.why ?? null, to.tried ? 1 : 0],
  );

/** Has news sent after a while, once however often that is asked for. */
export const queueNews = (db: Db, notice: string, way: NewsWay, at: Date) =>
  db.query(
    `
      select
        graphile_worker.add_job (
          'send_news',
          json_build_object('notice', $1::text, 'way', $2::text),
          job_key := 'news:' || $1 || ':' || $2,
          run_at := $3,
          max_attempts := 25
        )
    `,
    [notice, way, at],
  );

/** Those who have any news by other ways than the screen. */
export const beyondTheScreen = async (db: Db): Promise<string[]> =>
  (await db.query("select distinct person_id from news_way")).rows.map((r) => r.person_id);

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
                where
                  n.person_id = $1
                  and n.read_at is null
                  and not (${ASKS} and not ${MINE})
                  and ${STANDS_FOR_ALL}
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

/** What somebody has chosen: kinds they do not want at all, and the ways beside the screen for others. */
export const newsChosen = async (
  db: Db,
  person: string,
): Promise<{
  off: string[];
  ways: { kind: string; way: NewsWay }[];
  quiet: { from: string; until: string } | null;
}> =>
  (
    await db.query(
      `
        select
          array(select kind from news_off where person_id = $1) as off,
          (
            select coalesce(json_agg(json_build_object('kind', kind, 'way', way)), '[]')
            from news_way
            where person_id = $1
          ) as ways,
          (
            select json_build_object('from', to_char(starts, 'HH24:MI'), 'until', to_char(ends, 'HH24:MI'))
            from quiet_time
            where person_id = $1
          ) as quiet
      `,
      [person],
    )
  ).rows[0];

export const setNewsOff = (db: Db, person: string, kind: NewsKind, off: boolean) =>
  off
    ? db.query("insert into news_off (person_id, kind) values ($1, $2) on conflict do nothing", [
        person,
        kind,
      ])
    : db.query("delete from news_off where person_id = $1 and kind = $2", [person, kind]);

export const setNewsWay = (db: Db, person: string, kind: NewsKind | "told", way: NewsWay, on: boolean) =>
  on
    ? db.query("insert into news_way (person_id, kind, way) values ($1, $2, $3) on conflict do nothing", [
        person,
        kind,
        way,
      ])
    : db.query("delete from news_way where person_id = $1 and kind = $2 and way = $3", [person, kind, way]);

/** @param hours as "22:00"; null for none */
export const setQuietTime = (db: Db, person: string, hours: { from: string; until: string } | null) =>
  hours
    ? db.query(
        `
          insert into quiet_time (person_id, starts, ends)
          values ($1, $2, $3)
          on conflict (person_id) do update
          set starts = excluded.starts, ends = excluded.ends
        `,
        [person, hours.from, hours.until],
      )
    : db.query("delete from quiet_time where person_id = $1", [person]);
