import type { MessageRow } from "./messages";
import { ALL } from "./messages";
import type { Db } from "./pool";

/** Mails that hold some words and are looked at for whether somebody may see them. */
const MOST_LOOKED_AT = 5000;

export interface LetterHit extends MessageRow {
  number: string;
  title: string;
  owner: boolean;
}
/**
 * The newest mails that hold some words, of requests that somebody made, takes part in, or whose process they own. Which
 * of those they may read is not asked here.
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
          hit as materialized (
            select m.id
            from message m
            where m.request_id is not null and (m.subject || ' ' || m.body) ilike $2
            limit ${MOST_LOOKED_AT}
          )
        select ${ALL}, r.number, r.title, o.person_id is not null as owner
        from
          hit
          join message m on m.id = hit.id
          join request r on r.id = m.request_id
          left join process_owner o on o.process_key = r.process_key and o.person_id = $1
        where
          o.person_id is not null
          or r.requester_id = $1
          or exists (
            select 1
            from task_candidate c
            where c.request_id = r.id and c.person_id = $1
          )
        order by m.id desc
        limit $3
      `,
      values: [person, `%${words.replace(/[\\%_]/g, "\\$&")}%`, limit],
    })
  ).rows;
