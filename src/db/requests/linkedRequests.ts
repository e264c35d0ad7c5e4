import type { StoredRecord } from "@/core/form";
import type { Db } from "../pool";

/** What links to requests read of them, by their numbers; those there are none of are left out. */
export const linkedRequests = async (db: Db, numbers: readonly string[]): Promise<StoredRecord[]> => {
  if (numbers.length === 0) return [];
  const { rows } = await db.query(
    `
      select
        r.number as id,
        l.definition ->> 'name' as process,
        r.status,
        r.result,
        floor(extract(epoch from r.started_at) * 1000)::text as started,
        floor(extract(epoch from r.ended_at) * 1000)::text as ended
      from request r join process_release l on l.id = r.release_id
      where r.number = any($1::text[])
    `,
    [numbers],
  );
  return rows;
};
