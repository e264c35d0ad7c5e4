import type { Db } from "./pool";

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
  number: string | null;
  subject: string;
  body: string;
  created_at: number;
  read_at: number | null;
}
export const noticesOf = async (db: Db, person: string, limit: number): Promise<NoticeRow[]> =>
  (
    await db.query(
      `
        select n.id, r.number, n.subject, n.body, n.created_at, n.read_at
        from notice n left join request r on r.id = n.request_id
        where n.person_id = $1
        order by n.id desc
        limit $2
      `,
      [person, limit],
    )
  ).rows;
export const unreadCount = async (db: Db, person: string): Promise<number> =>
  (await db.query("select count(*)::int as n from notice where person_id = $1 and read_at is null", [person]))
    .rows[0].n;
export const markRead = (db: Db, person: string, at: string) =>
  db.query("update notice set read_at = $2 where person_id = $1 and read_at is null", [person, at]);
