import type { Db } from "../pool";

/**
 * Requests with a task asked of somebody who has left, or who is away and has a cover.
 * @param after the id of the request before, "0" to begin with; ids come in order
 */
export const askedOfNobody = async (db: Db, now: string, after: string, limit: number): Promise<string[]> =>
  (
    await db.query<{ id: string }>({
      name: "asked of nobody",
      text: `
        select distinct c.request_id as id
        from
          (
            select id from person where not active
            union
            select person_id from absence where starts <= $1 and ends > $1 and not stays and (cover_id is not null or covers <> '[]')
          ) as gone (id)
          join task_candidate c on c.person_id = gone.id and c.open
        where c.request_id > $2
        order by c.request_id
        limit $3
      `,
      values: [now, after, limit],
    })
  ).rows.map((r) => r.id);
