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

/** Whether an effect is known to be done. */
export const effectDone = async (db: Db, request: string, effect: string): Promise<boolean> =>
  (
    await db.query(
      "select 1 from request_event where request_id = $1 and type = 'effect done' and body ->> 'effect' = $2",
      [request, effect],
    )
  ).rows.length > 0;

/** An event as part of another row: number, kind, moment, by whom, body, format, and the name of the key it was done by. */
export type StoredEvent = [
  seq: number,
  type: string,
  at: number,
  by: string | null,
  body: object,
  format: number,
  key: string | null,
  means: Means | null,
];
/** By what somebody did something, where it was no page of ours. */
export type Means = "link" | "reply" | "chat";
/** All events of the request `r`, to stand in a statement that reads it. */
export const ALL_EVENTS = `
  (
    select
      json_agg(
        json_build_array(e.seq, e.type, floor(extract(epoch from e.at) * 1000), e.by_person, e.body, e.format, k.label,
          substring(e.via from '^(link|reply|chat) '))
        order by e.seq
      )
    from
      request_event e
      left join api_key k on k.id = substring(e.via from '^key (\\d{1,18})$')::bigint
    where e.request_id = r.id
  )
`;
export const readTrail = (
  rows: readonly StoredEvent[],
): { events: RequestEvent[]; keys: ReadonlyMap<number, string>; means: ReadonlyMap<number, Means> } => ({
  events: rows.map(([seq, type, at, by, body, format]) => readEvent({ ...body, seq, type, at, by }, format)),
  keys: new Map(rows.flatMap(([seq, , , , , , key]) => (key === null ? [] : [[seq, key] as const]))),
  means: new Map(rows.flatMap(([seq, , , , , , , by]) => (by ? [[seq, by] as const] : []))),
});

/**
 * Timers of a request that are due, earliest first: they must fire in order even when found late.
 * @param moment that counts; null for now by the application's clock, which is the machine's and the offset kept
 */
export const dueTimers = async (db: Db, request: string, moment: string | null): Promise<string[]> =>
  (
    await db.query({
      name: "due-timers",
      text: `
        select id
        from timer
        where
          request_id = $1
          and due_at <= coalesce(
            $2::timestamptz,
            to_timestamp(
              (
                $3::float8 + (
                  select (value #>> '{}')::float8
                  from setting
                  where key = 'clock_offset'
                )
              ) / 1000
            )
          )
        order by due_at, id
      `,
      values: [request, moment, Date.now()],
    })
  ).rows.map((r) => r.id);
