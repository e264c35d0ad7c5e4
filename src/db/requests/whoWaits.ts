import type { Db } from "../pool";

/** Those a request waits for, and those who own its process. */
export const whoWaits = async (
  db: Db,
  id: string,
): Promise<{ number: string; asked: string[]; owners: string[] }> =>
  (
    await db.query(
      `
        select
          r.number,
          array(
            select distinct c.person_id
            from task_candidate c
            where c.request_id = r.id and c.open
            order by 1
          ) as asked,
          array(
            select o.person_id
            from process_owner o
            where o.process_key = r.process_key
            order by 1
          ) as owners
        from request r
        where r.id = $1
      `,
      [id],
    )
  ).rows[0];
