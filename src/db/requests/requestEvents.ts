import type { RequestEvent } from "@/core/engine";
import { readEvent } from "@/formats";
import type { Db } from "../pool";

export const eventsOf = async (db: Db, request: string): Promise<RequestEvent[]> =>
  (
    await db.query(
      `
        select seq, type, at, by_person as by, body, format
        from request_event
        where request_id = $1
        order by seq
      `,
      [request],
    )
  ).rows.map(({ body, format, ...e }) => readEvent({ ...body, ...e }, format));

/** The keys through which something was done to a request, by the number of the event. */
export const keysOfEvents = async (db: Db, request: string): Promise<Map<number, string>> =>
  new Map(
    (
      await db.query(
        `
          select e.seq, k.label
          from
            request_event e
            join api_key k on k.id = substring(e.via from '^key (\\d{1,18})$')::bigint
          where e.request_id = $1
        `,
        [request],
      )
    ).rows.map((r) => [r.seq, r.label]),
  );

/** Timers of a request that are due, earliest first: they must fire in order even when found late. */
export const dueTimers = async (db: Db, request: string, now: string): Promise<string[]> =>
  (
    await db.query("select id from timer where request_id = $1 and due_at <= $2 order by due_at, id", [
      request,
      now,
    ])
  ).rows.map((r) => r.id);
