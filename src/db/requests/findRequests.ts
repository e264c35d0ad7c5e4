import type { Db } from "../pool";
import { likePart } from "../likePart";

export interface FoundRequest {
  number: string;
  title: string;
  process_name: string;
}
/** Requests that somebody ($1) made, that wait for them, or whose process they own: of each the newest, however many there are. */
export const MINE = `
            (
              select id
              from request
              where requester_id = $1
              order by started_at desc, id desc
              limit 500
            )
            union
            (
              select request_id
              from task_candidate
              where person_id = $1 and open
              order by due_at nulls last, opened_at, request_id
              limit 500
            )
            union
            (
              select request_id
              from request_mention
              where person_id = $1
              order by request_id desc
              limit 500
            )
            union
            (
              select r.id
              from
                process_owner o
                cross join lateral (
                  select id
                  from request
                  where process_key = o.process_key
                  order by started_at desc, id desc
                  limit 500
                ) r
              where o.person_id = $1
            )
`;

/**
 * Requests by a part of their number, title or process, among those a person made, has a task of or owns the process of; the
 * newest few hundred of each, so that the time it takes does not grow with the years.
 */
export const findRequests = async (
  db: Db,
  person: string,
  text: string,
  limit: number,
): Promise<FoundRequest[]> =>
  (
    await db.query({
      name: "find-requests",
      text: `
        with
          mine as (
            ${MINE}
            union
            (
              select r.id
              from request r
              where
                r.number = upper($2)
                and (
                  r.requester_id = $1
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
            )
          )
        select r.number, r.title, l.definition ->> 'name' as process_name
        from request r join process_release l on l.id = r.release_id
        where
          -- As an array, so that they are fetched by their keys however many the planner takes them for.
          r.id = any(array(select id from mine))
          and (r.number ilike $3 or r.title ilike $3 or l.definition ->> 'name' ilike $3)
        order by r.number = upper($2) desc, r.started_at desc, r.id desc
        limit $4
      `,
      values: [person, text, likePart(text), limit],
    })
  ).rows;
