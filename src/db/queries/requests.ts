import type { Effect, RequestEvent, RequestState, Task, TellEffect, Timer } from "@/core/engine";
import { at, type Db } from "../pool";
import { jobSpecs } from "./jobs";

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
  return (
    (
      await db.query({
        name: "request-by-number",
        text: "select * from request where number = $1",
        values: [number],
      })
    ).rows[0] ?? null
  );
}
export const requestById = async (db: Db, id: string): Promise<RequestRow | null> =>
  (await db.query("select * from request where id = $1", [id])).rows[0] ?? null;
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
  return (
    (
      await db.query({
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
      })
    ).rows[0] ?? null
  );
}
export async function requestByStartKey(db: Db, key: string): Promise<{ number: string } | null> {
  return (await db.query("select number from request where start_key = $1", [key])).rows[0] ?? null;
}

export interface NewRequest {
  number: string;
  process: string;
  release: string;
  startKey: string | null;
}

/** What a command changed, ready to be written by one statement. */
export interface RequestChange {
  id: string | null;
  /** The version the command was decided on; another one in the row means that somebody was faster. */
  from: number;
  fresh: NewRequest | null;
  title: string;
  state: RequestState;
  events: RequestEvent[];
  tasks: Task[];
  stepNames: Readonly<Record<string, string>>;
  setTimers: Timer[];
  clearTimers: string[];
  tells: TellEffect[];
  /** Absent when the caller adds the jobs later. */
  jobs: { offset: number } | null;
  /** The task whose draft goes with its answer. */
  answered: string | null;
}

export function changeOf(
  id: string | null,
  from: number,
  fresh: NewRequest | null,
  title: string,
  state: RequestState,
  events: RequestEvent[],
  effects: readonly Effect[],
  stepNames: Readonly<Record<string, string>>,
  jobs: RequestChange["jobs"],
  answered: string | null,
): RequestChange {
  const out: RequestChange = {
    id,
    from,
    fresh,
    title,
    state,
    events,
    tasks: [],
    stepNames,
    setTimers: [],
    clearTimers: [],
    tells: [],
    jobs,
    answered,
  };
  for (const e of effects) {
    if (e.kind === "task") out.tasks.push(e.task);
    else if (e.kind === "set timer") out.setTimers.push(e.timer);
    else if (e.kind === "clear timer") out.clearTimers.push(e.timer);
    else if (e.kind === "tell") out.tells.push(e);
  }
  return out;
}

const isOpen = (t: Task) => t.status === "open" || t.status === "taken";

/**
 * Writes state, events, tasks, timers and jobs of one command in one statement: a round trip each would
 * cost more than the work itself. Writes nothing where the row's version is not the one decided on (a lock
 * taken inside this statement would come too late: its snapshot would be older).
 * @returns the request's id, or null when nothing was written
 */
export async function saveRequest(db: Db, c: RequestChange): Promise<string | null> {
  const s = c.state;
  const events = c.events.map(({ seq, type, at: when, by, ...body }) => ({
    seq,
    type,
    at: at(when),
    by_person: by,
    body,
  }));
  const tasks = c.tasks.map((t) => ({
    id: t.id,
    step_id: t.step,
    step_name: c.stepNames[t.step] ?? t.step,
    purpose: t.purpose,
    holder_id: t.holder,
    status: t.status,
    opened_at: at(t.openedAt),
    due_at: at(t.due),
    ended_at: at(t.endedAt ?? null),
    answer: t.answer ?? null,
  }));
  const candidates = c.tasks.flatMap((t) =>
    t.candidates.map((p) => ({
      task_id: t.id,
      person_id: p.person,
      for_person: p.for ?? null,
      due_at: at(t.due),
      opened_at: at(t.openedAt),
      // A task somebody has taken leaves the desks of the others.
      open: isOpen(t) && (t.holder === null || t.holder === p.person),
    })),
  );
  const touched = c.tasks.map((t) => t.id);
  const timers = c.setTimers.map((t) => ({ id: t.id, due_at: at(t.at) }));
  const row =
    c.id === null
      ? `
        insert into
          request (
            number,
            process_key,
            release_id,
            start_key,
            requester_id,
            title,
            status,
            result,
            result_tone,
            state,
            version,
            started_at,
            ended_at
          )
        values ($10, $11, $12, $13, $14, $15, $2, $3, $4, $5, $6, $16, $7)
        returning id
      `
      : `
        update request
        set
          status = $2,
          result = $3,
          result_tone = $4,
          state = $5,
          version = $6,
          ended_at = $7,
          title = $10
        where id = $1::bigint and version = $11
        returning id
      `;
  const head = [
    c.id,
    s.status,
    s.result?.name ?? null,
    s.result?.tone ?? null,
    JSON.stringify(s),
    s.seq,
    at(s.endedAt),
    JSON.stringify(events),
    JSON.stringify({
      tasks,
      candidates,
      touched,
      timers,
      cleared: c.clearTimers,
      answered: c.answered,
      jobs: c.jobs ? jobSpecs(c.tells, c.setTimers, c.jobs.offset) : [],
      dropped: c.jobs ? c.clearTimers : [],
    }),
  ];
  const tail =
    c.fresh && c.id === null
      ? [
          c.fresh.number,
          c.fresh.process,
          c.fresh.release,
          c.fresh.startKey,
          s.requester,
          c.title,
          at(s.startedAt),
        ]
      : [c.title, c.from];
  const { rows } = await db.query({
    name: c.id === null ? "save-new-request" : "save-request",
    text: `
      with
        r as (${row}),
        x as (select $9::jsonb as j${c.id === null ? ", $1::text as unused" : ""}),
        ev as (
          insert into request_event (request_id, seq, type, at, by_person, body)
          select r.id, e.seq, e.type, e.at, e.by_person, e.body
          from
            r,
            jsonb_to_recordset($8::jsonb) as e (seq int, type text, at timestamptz, by_person text, body jsonb)
        ),
        tk as (
          insert into
            task (
              request_id,
              id,
              step_id,
              step_name,
              purpose,
              holder_id,
              status,
              opened_at,
              due_at,
              ended_at,
              answer
            )
          select r.id, t.*
          from
            r,
            x,
            jsonb_to_recordset(x.j -> 'tasks') as t (
              id text,
              step_id text,
              step_name text,
              purpose text,
              holder_id text,
              status text,
              opened_at timestamptz,
              due_at timestamptz,
              ended_at timestamptz,
              answer text
            )
          on conflict (request_id, id) do update
          set
            holder_id = excluded.holder_id,
            status = excluded.status,
            ended_at = excluded.ended_at,
            answer = excluded.answer,
            due_at = excluded.due_at
          returning request_id
        ),
        gone as (
          delete from task_candidate c using r,
          x
          where
            c.request_id = r.id
            and c.task_id in (select jsonb_array_elements_text(x.j -> 'touched'))
            and not exists (
              select 1
              from jsonb_to_recordset(x.j -> 'candidates') as n (task_id text, person_id text)
              where n.task_id = c.task_id and n.person_id = c.person_id
            )
        ),
        cd as (
          insert into
            task_candidate (request_id, task_id, person_id, for_person, due_at, opened_at, open)
          select r.id, c.*
          from
            r,
            x,
            jsonb_to_recordset(x.j -> 'candidates') as c (
              task_id text,
              person_id text,
              for_person text,
              due_at timestamptz,
              opened_at timestamptz,
              open boolean
            )
          on conflict (request_id, task_id, person_id) do update
          set open = excluded.open, for_person = excluded.for_person, due_at = excluded.due_at
        ),
        st as (
          insert into timer (request_id, id, due_at)
          select r.id, t.*
          from r, x, jsonb_to_recordset(x.j -> 'timers') as t (id text, due_at timestamptz)
        ),
        ct as (
          delete from timer t using r,
          x
          where
            t.request_id = r.id
            and t.id in (select jsonb_array_elements_text(x.j -> 'cleared'))
        ),
        dr as (
          delete from form_draft f using r,
          x
          where f.request_id = r.id and f.task_id = x.j ->> 'answered'
        )
      select
        r.id,
        pg_notify ('changed', r.id::text),
        case
          when x.j -> 'jobs' <> '[]' then (
            select count(*)
            from
              graphile_worker.add_jobs (
                array(
                  select
                    json_populate_record(
                      null::graphile_worker.job_spec,
                      (
                        s || jsonb_build_object('payload', s -> 'payload' || jsonb_build_object('request', r.id::text)) || case
                          when s ? 'timer' then jsonb_build_object('job_key', 'timer:' || r.id || ':' || (s ->> 'timer'))
                          else '{}'
                        end
                      )::json
                    )
                  from jsonb_array_elements(x.j -> 'jobs') s
                )
              )
          )
        end as added,
        case
          when x.j -> 'dropped' <> '[]' then (
            select count(graphile_worker.remove_job ('timer:' || r.id || ':' || k))
            from jsonb_array_elements_text(x.j -> 'dropped') k
          )
        end as dropped
      from r, x
    `,
    values: [...head, ...tail],
  });
  return rows[0]?.id ?? null;
}

export const eventsOf = async (db: Db, request: string): Promise<RequestEvent[]> =>
  (
    await db.query(
      `
        select seq, type, at, by_person as by, body
        from request_event
        where request_id = $1
        order by seq
      `,
      [request],
    )
  ).rows.map(({ body, ...e }) => ({ ...body, ...e }));

/** Timers of a request that are due, earliest first: they must fire in order even when found late. */
export const dueTimers = async (db: Db, request: string, now: string): Promise<string[]> =>
  (
    await db.query("select id from timer where request_id = $1 and due_at <= $2 order by due_at, id", [
      request,
      now,
    ])
  ).rows.map((r) => r.id);

export interface TaskListRow {
  number: string;
  request_id: string;
  title: string;
  process_key: string;
  process_name: string;
  requester_id: string;
  task_id: string;
  step_name: string;
  purpose: string;
  status: string;
  holder_id: string | null;
  for_person: string | null;
  shared: boolean;
  opened_at: number;
  due_at: number | null;
}
/** What waits for a person, soonest limit first. */
export const deskOf = async (db: Db, person: string, limit: number): Promise<TaskListRow[]> =>
  (
    await db.query({
      name: "desk",
      text: `
        select
          r.number,
          r.id as request_id,
          r.title,
          r.process_key,
          l.definition ->> 'name' as process_name,
          r.requester_id,
          t.id as task_id,
          t.step_name,
          t.purpose,
          t.status,
          t.holder_id,
          c.for_person,
          t.opened_at,
          t.due_at,
          exists (
            select 1
            from task_candidate o
            where
              o.request_id = c.request_id
              and o.task_id = c.task_id
              and o.person_id <> c.person_id
          ) as shared
        from
          (
            select *
            from task_candidate
            where person_id = $1 and open
            order by due_at nulls last, opened_at, request_id
            limit $2
          ) c
          join task t on t.request_id = c.request_id
          and t.id = c.task_id
          join request r on r.id = c.request_id
          join process_release l on l.id = r.release_id
        order by c.due_at nulls last, c.opened_at, c.request_id
      `,
      values: [person, limit],
    })
  ).rows;
export const deskCount = async (db: Db, person: string): Promise<number> =>
  (
    await db.query({
      name: "desk-count",
      text: "select count(*)::int as n from task_candidate where person_id = $1 and open",
      values: [person],
    })
  ).rows[0].n;

export interface RequestListRow {
  number: string;
  title: string;
  process_key: string;
  process_name: string;
  requester_id: string;
  status: string;
  result: string | null;
  result_tone: string | null;
  started_at: number;
  ended_at: number | null;
  /** Who has it now: holders, or all who may take it. */
  waiting_for: string[];
  step: string | null;
  due_at: number | null;
}
export interface RequestFilter {
  requester?: string;
  process?: string;
  /** Only processes this person owns. */
  owner?: string;
  state?: "open" | "ended" | "stuck" | "late";
  search?: string;
  now: string;
  limit: number;
  offset: number;
}
export async function listRequests(
  db: Db,
  f: RequestFilter,
): Promise<{ rows: RequestListRow[]; total: number }> {
  const values: unknown[] = [];
  const bind = (v: unknown) => `$${values.push(v)}`;
  const where: string[] = [];
  if (f.requester) where.push(`r.requester_id = ${bind(f.requester)}`);
  if (f.process) where.push(`r.process_key = ${bind(f.process)}`);
  if (f.owner)
    where.push(`r.process_key in (select process_key from process_owner where person_id = ${bind(f.owner)})`);
  if (f.state === "open") where.push("r.ended_at is null");
  if (f.state === "ended") where.push("r.ended_at is not null");
  if (f.state === "stuck") where.push("r.status = 'stuck'");
  if (f.state === "late")
    where.push(
      `r.ended_at is null and exists (select 1 from task t where t.request_id = r.id and t.ended_at is null and t.due_at < ${bind(f.now)})`,
    );
  if (f.search?.trim()) {
    const like = bind(`%${f.search.trim().replace(/[\\%_]/g, "\\$&")}%`);
    where.push(`(r.number ilike ${like} or r.title ilike ${like})`);
  }
  const condition = where.length > 0 ? `where ${where.join(" and ")}` : "";
  const total = (await db.query(`select count(*)::int as n from request r ${condition}`, values)).rows[0].n;
  const rows = (
    await db.query(
      `
        select
          r.number,
          r.title,
          r.process_key,
          l.definition ->> 'name' as process_name,
          r.requester_id,
          r.status,
          r.result,
          r.result_tone,
          r.started_at,
          r.ended_at,
          (
            select min(t.step_name)
            from task t
            where t.request_id = r.id and t.ended_at is null
          ) as step,
          (
            select min(t.due_at)
            from task t
            where t.request_id = r.id and t.ended_at is null
          ) as due_at,
          array(
            select distinct c.person_id
            from task_candidate c
            where c.request_id = r.id and c.open
            order by 1
          ) as waiting_for
        from
          (
            select *
            from request r ${condition}
            order by r.started_at desc, r.id desc
            limit ${bind(f.limit)}
            offset ${bind(f.offset)}
          ) r
          join process_release l on l.id = r.release_id
        order by r.started_at desc, r.id desc
      `,
      values,
    )
  ).rows;
  return { rows, total };
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

export interface FoundRequest {
  number: string;
  title: string;
  process_name: string;
}
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
                )
            )
          )
        select r.number, r.title, l.definition ->> 'name' as process_name
        from mine join request r on r.id = mine.id join process_release l on l.id = r.release_id
        where r.number ilike $3 or r.title ilike $3 or l.definition ->> 'name' ilike $3
        order by r.number = upper($2) desc, r.started_at desc, r.id desc
        limit $4
      `,
      values: [person, text, `%${text.replace(/[\\%_]/g, "\\$&")}%`, limit],
    })
  ).rows;
