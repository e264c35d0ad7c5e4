import type { RequestEvent, RequestState } from "@/core/engine";
import { readState } from "@/formats";
import type { Db } from "../pool";
import { ALL_EVENTS, readTrail, type StoredEvent } from "./requestEvents";

/** A row with its state in the newest format. */
const current = <R extends RequestRow>(row: R | undefined): R | null =>
  row ? { ...row, state: readState(row.state) } : null;

export interface RequestRow {
  id: string;
  number: string;
  process_key: string;
  release_id: string;
  requester_id: string;
  title: string;
  status: string;
  result: string | null;
  result_tone: string | null;
  state: RequestState;
  version: number;
  started_at: number;
  ended_at: number | null;
}

export async function requestByNumber(db: Db, number: string): Promise<RequestRow | null> {
  const { rows } = await db.query({
    name: "request-by-number",
    text: "select * from request where number = $1",
    values: [number],
  });
  return current(rows[0]);
}
export interface RequestForCommand extends RequestRow {
  directory_version: string;
  clock_offset: string;
}
/**
 * Reads a request for a command; locked, one command at a time. What every command needs besides comes along,
 * because a round trip costs more than reading it.
 */
export async function requestForCommand(
  db: Db,
  by: { id: string } | { number: string },
  lock: boolean,
): Promise<RequestForCommand | null> {
  const column = "id" in by ? "id" : "number";
  const { rows } = await db.query({
    name: `${lock ? "lock" : "read"}-request-by-${column}`,
    text: `
          select
            r.*,
            (
              select value #>> '{}'
              from setting
              where key = 'directory_version'
            ) as directory_version,
            (
              select value #>> '{}'
              from setting
              where key = 'clock_offset'
            ) as clock_offset
          from request r
          where r.${column} = $1 ${lock ? " for update of r" : ""}
        `,
    values: ["id" in by ? by.id : by.number],
  });
  return current(rows[0]);
}
/** A request, what somebody is to it, and what a page of it needs besides: in one round trip. */
export interface SeenRow extends RequestRow {
  release_version: string;
  directory_version: string;
  clock_offset: number;
  /** Of its process. */
  owners: string[];
  /** The steps that somebody took part in: they may look at it afterwards. */
  steps: string[];
  /** What happened, and by the number of an event the key it was done by; empty where it was not asked for. */
  events: RequestEvent[];
  keys: ReadonlyMap<number, string>;
}
/** @param trail whether its events are wanted */
export async function requestSeen(
  db: Db,
  by: { id: string } | { number: string },
  person: string,
  trail: boolean,
): Promise<SeenRow | null> {
  const column = "id" in by ? "id" : "number";
  const { rows } = await db.query({
    name: `see-${trail ? "all-of-" : ""}request-by-${column}`,
    text: `
      select
        r.*,
        l.version as release_version,
        (
          select value #>> '{}'
          from setting
          where key = 'directory_version'
        ) as directory_version,
        (
          select coalesce(value #>> '{}', '0')::float8
          from setting
          where key = 'clock_offset'
        ) as clock_offset,
        array(
          select o.person_id
          from process_owner o
          where o.process_key = r.process_key
          order by 1
        ) as owners,
        array(
          select distinct t.step_id
          from task_candidate c join task t on t.request_id = c.request_id and t.id = c.task_id
          where c.request_id = r.id and c.person_id = $2
        ) as steps,
        ${trail ? ALL_EVENTS : "null"} as events
      from request r join process_release l on l.id = r.release_id
      where r.${column} = $1
    `,
    values: ["id" in by ? by.id : by.number, person],
  });
  const row = current(rows[0]);
  return row && { ...row, ...readTrail((row.events ?? []) as unknown as StoredEvent[]) };
}

/** What is kept of the requests after one, by their ids, for going through all of them. */
export const statesAfter = async (
  db: Db,
  after: string,
  limit: number,
): Promise<{ id: string; number: string; state: RequestState }[]> =>
  (
    await db.query("select id, number, state from request where id > $1 order by id limit $2", [after, limit])
  ).rows.map((r) => ({ ...r, state: readState(r.state) }));

export async function requestByStartKey(
  db: Db,
  key: string,
): Promise<{ number: string; hash: Buffer | null } | null> {
  const { rows } = await db.query("select number, start_hash as hash from request where start_key = $1", [
    key,
  ]);
  return rows[0] ?? null;
}

/** People who have or had a task of a request: they may look at it afterwards. */
export const tookPart = async (db: Db, request: string, person: string): Promise<string[]> =>
  (
    await db.query(
      `
        select distinct t.step_id
        from task t join task_candidate c on c.request_id = t.request_id and c.task_id = t.id
        where t.request_id = $1 and c.person_id = $2
      `,
      [request, person],
    )
  ).rows.map((r) => r.step_id);

export const isOwner = async (db: Db, process: string, person: string): Promise<boolean> =>
  ((
    await db.query("select 1 from process_owner where process_key = $1 and person_id = $2", [process, person])
  ).rowCount ?? 0) > 0;
