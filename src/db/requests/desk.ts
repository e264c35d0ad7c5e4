import type { Task } from "@/core/engine";
import type { Party } from "@/core/form";
import type { Db } from "../pool";

export interface TaskListRow {
  number: string;
  request_id: string;
  title: string;
  process_key: string;
  process_name: string;
  requester_id: string | null;
  /** Who asked, where that is not the account. */
  party: Party | null;
  task_id: string;
  step_name: string;
  /** The round it is of, in words; empty for none. */
  about: string;
  purpose: Task["purpose"];
  status: string;
  holder_id: string | null;
  for_person: string | null;
  shared: boolean;
  opened_at: number;
  due_at: number | null;
  /** It may be answered together with others of its step. */
  at_once: boolean;
  step_id: string;
  release_id: string;
}
/** What is with whoever covers for somebody, the soonest limit first, at most so many; and how many there are. */
export async function coveredOf(
  db: Db,
  person: string,
  limit: number,
): Promise<{ rows: CoveredRow[]; total: number }> {
  const { rows } = await db.query({
    name: "covered",
    text: `
      select
        r.number,
        r.title,
        t.id as task_id,
        t.step_name,
        t.about,
        t.purpose,
        c.person_id as cover_id,
        count(*) over ()::int as total
      from
        task_candidate c
        join task t on t.request_id = c.request_id
        and t.id = c.task_id
        join request r on r.id = c.request_id
      where c.for_person = $1 and c.open
      order by c.due_at nulls last, c.opened_at, c.request_id, length(c.task_id), c.task_id
      limit $2
    `,
    values: [person, limit],
  });
  return { rows, total: rows[0]?.total ?? 0 };
}
export interface CoveredRow extends Pick<
  TaskListRow,
  "number" | "title" | "task_id" | "step_name" | "about" | "purpose"
> {
  cover_id: string;
}

/** What waits for a person, soonest limit first, at most so many; and how many there are. */
export async function deskOf(
  db: Db,
  person: string,
  limit: number,
): Promise<{ rows: TaskListRow[]; total: number }> {
  const { rows } = await db.query({
    name: "desk",
    text: `
        select
          r.number,
          r.id as request_id,
          r.title,
          r.process_key,
          l.definition ->> 'name' as process_name,
          r.requester_id,
          r.party,
          t.id as task_id,
          t.step_name,
          t.about,
          t.at_once,
          t.step_id,
          r.release_id,
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
          ) as shared,
          (
            select count(*)::int
            from task_candidate
            where person_id = $1 and open
          ) as total
        from
          (
            select *
            from task_candidate
            where person_id = $1 and open
            order by due_at nulls last, opened_at, request_id, length(task_id), task_id
            limit $2
          ) c
          join task t on t.request_id = c.request_id
          and t.id = c.task_id
          join request r on r.id = c.request_id
          join process_release l on l.id = r.release_id
        -- Rounds of one request in the order in which they were opened.
        order by c.due_at nulls last, c.opened_at, c.request_id, length(c.task_id), c.task_id
      `,
    values: [person, limit],
  });
  return { rows, total: rows[0]?.total ?? 0 };
}

/** Which of some tasks of somebody's, by request and id, may be answered with others at once. */
export async function answeredAtOnce(
  db: Db,
  person: string,
  tasks: readonly { number: string; task: string }[],
): Promise<ReadonlySet<string>> {
  const { rows } = await db.query<{ key: string }>({
    text: `
      select r.number || ' ' || t.id as key
      from
        unnest($1::text[], $2::text[]) as x (number, task)
        join request r on r.number = x.number
        join task t on t.request_id = r.id and t.id = x.task
        join task_candidate c on c.request_id = r.id and c.task_id = t.id and c.person_id = $3
      where t.at_once
    `,
    values: [tasks.map((t) => t.number), tasks.map((t) => t.task), person],
  });
  return new Set(rows.map((r) => r.key));
}
