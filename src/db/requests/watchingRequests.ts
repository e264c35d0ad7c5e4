import type { Db } from "../pool";

/** Ids of the requests that wait for a record to change. */
export const watchingRequests = async (db: Db): Promise<string[]> =>
  (await db.query("select distinct request_id::text as id from request_watch")).rows.map(
    (r) => r.id as string,
  );
