import type { Db } from "../pool";

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
