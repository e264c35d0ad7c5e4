import { at, type Db } from "./pool";

export interface AnswerLinkRow {
  message_id: string;
  request_id: string;
  number: string;
  task_id: string;
  person_id: string;
  used_at: number | null;
}

export const insertAnswerLink = (
  db: Db,
  l: { hash: Buffer; message: string; request: string; task: string; person: string; now: number },
) =>
  db.query(
    `
      insert into answer_link (hash, message_id, request_id, task_id, person_id, made_at)
      values ($1, $2, $3, $4, $5, $6)
    `,
    [l.hash, l.message, l.request, l.task, l.person, at(l.now)],
  );

export const answerLinkOf = async (db: Db, hash: Buffer): Promise<AnswerLinkRow | null> =>
  (
    await db.query(
      `
        select
          l.message_id::text as message_id,
          l.request_id::text as request_id,
          r.number,
          l.task_id,
          l.person_id,
          l.used_at
        from answer_link l join request r on r.id = l.request_id
        where l.hash = $1
      `,
      [hash],
    )
  ).rows[0] ?? null;

/** All links to a task of somebody's are used up by one. */
export const useAnswerLinks = (db: Db, request: string, task: string, person: string, now: number) =>
  db.query(
    `
      update answer_link
      set used_at = $4
      where request_id = $1 and task_id = $2 and person_id = $3 and used_at is null
    `,
    [request, task, person, at(now)],
  );
