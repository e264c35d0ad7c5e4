import { ALL, type MessageRow } from "./messages";
import type { Db } from "./pool";
import { MINE } from "./requests/findRequests";
import { likePart } from "./likePart";

/** Mails that hold some words, of whatever request, that are looked at beside those of one's newest requests. */
const MOST_LOOKED_AT = 5000;

export interface LetterHit extends MessageRow {
  number: string;
  title: string;
  owner: boolean;
}
/**
 * The newest mails that hold some words, of requests that somebody made, takes part in, or whose process they own: of
 * their newest requests all, of others as far as the words are not in very many. Which they may read is not asked here.
 */
export const findInLetters = async (
  db: Db,
  person: string,
  words: string,
  limit: number,
): Promise<LetterHit[]> =>
  (
    await db.query({
      name: "find-in-letters",
      text: `
        with
          mine as (
            ${MINE}
          ),
          hit as materialized (
            select m.id
            from message m
            where m.request_id is not null and (m.subject || ' ' || m.body) ilike $2
            limit ${MOST_LOOKED_AT}
          )
        select ${ALL}, r.number, r.title, o.person_id is not null as owner
        from
          message m
          join request r on r.id = m.request_id
          left join process_owner o on o.process_key = r.process_key and o.person_id = $1
        where
          m.id = any(
            array(
              select id
              from hit
              union
              select x.id
              from message x
              where x.request_id = any(array(select id from mine)) and (x.subject || ' ' || x.body) ilike $2
            )
          )
          and (
            o.person_id is not null
            or r.requester_id = $1
            or exists (
              select 1
              from task_candidate c
              where c.request_id = r.id and c.person_id = $1
            )
            or exists (
              select 1
              from request_mention m
              where m.request_id = r.id and m.person_id = $1
            )
          )
        order by m.id desc
        limit $3
      `,
      values: [person, likePart(words), limit],
    })
  ).rows;
